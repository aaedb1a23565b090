import { holdsBits } from '@fadenkreuz/core/devices';
import { Problem, type ModbusTcpLink, type ParameterPlace } from '@fadenkreuz/core';
import { refusalOf } from '@fadenkreuz/core/modbus-tcp';
import { HeardFrames } from '../../capture/heardFrames.js';
import { ipEnd, type LinkEnds } from '../ends.js';
import { parameterAccess, refused, type ParameterAccess } from '../parameterAccess.js';
import type { LinkContext } from '../runningLink.js';
import { ModbusClient } from './client.js';
import { readPlaces, registerAt, writePlaces } from './places.js';
import { askPort, PortRefusal } from './portMailbox.js';

type RegisterPlace = Extract<ParameterPlace, { way: 'register' }>;

/**
 * Parameters as registers, high byte first, and as bits, one in a byte (Modbus Application Protocol V1.1b3, 6); those
 * of devices at the ports of an IO-Link master through its mailbox.
 */
export function modbusTcpParameters(
  ends: LinkEnds<ModbusTcpLink>,
  { tap, reach }: Pick<LinkContext, 'tap' | 'reach'>,
): ParameterAccess {
  const { end, localAddress, cut, link } = ends;
  const ports = ends.device.description.portRules?.requests ?? null;
  const { address, port = link.port } = ipEnd(end);
  /** A request to a port is several questions. */
  let asking = false;
  /** What the device refuses is said as every protocol says it. */
  const said = async <T>(place: ParameterPlace, answer: Promise<T>): Promise<T> => {
    asking = true;
    try {
      return await answer;
    } catch (error) {
      if (error instanceof PortRefusal) {
        const { refusal, means: says, cure } = error.why;
        throw refused(ends, place, refusal, { says, cure });
      }
      if (!(error instanceof Problem) || error.code !== 'modbus.refused') throw error;
      const { exception } = error.facts as { exception: number };
      throw refused(ends, place, refusalOf(exception), { says: error.message, cure: error.cure });
    } finally {
      asking = false;
    }
  };
  const frames = new HeardFrames(tap);
  return parameterAccess(ends, {
    frames,
    open: () => ModbusClient.open({ address, port, localAddress, cut, tap: frames, reach }),
    busy: () => asking,
    read: (client, place, size) => {
      if (place.way === 'register') return said(place, read(client, link.unit, place, size));
      if (place.way !== 'port' || ports?.by !== 'registers') return undefined;
      return said(place, askPort(client, link.unit, ports, place, { read: size }));
    },
    write: (client, place, value) => {
      if (place.way === 'register' && (place.table === 'holding' || place.table === 'coils'))
        return said(place, write(client, link.unit, place, value));
      if (place.way !== 'port' || ports?.by !== 'registers') return undefined;
      return said(
        place,
        askPort(client, link.unit, ports, place, { write: value }).then(() => undefined),
      );
    },
  });
}

/** Registers that a value of so many bytes takes. */
const registersFor = (size: number) => Math.max(1, Math.ceil(size / 2));

async function read(
  client: ModbusClient,
  unit: number,
  { table, start }: RegisterPlace,
  size: number,
): Promise<Uint8Array> {
  const bit = holdsBits(table);
  const bytes = await readPlaces(client, { unit, table, start, count: bit ? 1 : registersFor(size) });
  return bit ? bytes : bytes.slice(0, size);
}

/**
 * One place with functions 5 and 6, which the simplest devices know; several at once, so that no half of a value stands
 * there.
 */
async function write(
  client: ModbusClient,
  unit: number,
  { table, start }: RegisterPlace,
  value: Uint8Array,
): Promise<void> {
  const count = registersFor(value.length);
  if (table === 'coils') await client.ask(unit, 'writeCoil', { start, on: value.some((byte) => byte !== 0) });
  else if (count === 1) await client.ask(unit, 'writeRegister', { start, value: registerAt(value, 0) });
  else await writePlaces(client, { unit, table, start, count }, value);
}
