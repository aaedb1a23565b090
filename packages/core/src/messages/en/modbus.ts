import type { ModbusFacts } from '../facts/modbus.js';
import type { Texts } from '../wording.js';

/** Modbus. */
export const modbusTexts: Texts<ModbusFacts> = {
  'modbus.notModbus': (f) => ({
    says: `What came is no Modbus over TCP: it has ${f.reason}.`,
    cure: 'See what else listens on this port, and whether a gateway speaks serial Modbus unchanged.',
  }),
  'modbus.oddBytes': (f) => ({
    says: `Registers were announced with ${f.bytes} bytes, but each has two.`,
    cure: 'The sender is at fault: capture the traffic and look at this message.',
  }),
  'modbus.noCoilValue': (f) => ({
    says: `A coil was to be set to ${f.value}, which is neither on (16#FF00) nor off (0).`,
    cure: 'The sender is at fault: capture the traffic and look at this message.',
  }),
  'modbus.refused': (f) => ({
    says: `The device answered with exception ${f.exception}: ${f.meaning}.`,
    cure: f.cure,
  }),
  'modbus.otherFunction': (f) => ({
    says: `Function ${f.asked} was asked, function ${f.got} was answered.`,
    cure: 'The device mixes its answers up: let it have one question at a time.',
  }),
};
