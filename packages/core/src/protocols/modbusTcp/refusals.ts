import type { Refusal } from '../../devices/refusal.js';
import { exceptions } from './pdu.js';

/** Why a request for a value was refused, by the exception (Modbus Application Protocol V1.1b3, 7). */
const refusals = new Map<number, Refusal>([
  [exceptions.illegalFunction, 'absent'],
  [exceptions.illegalAddress, 'absent'],
  [exceptions.illegalValue, 'range'],
  [exceptions.acknowledge, 'busy'],
  [exceptions.deviceBusy, 'busy'],
]);

/** What the standard does not tell is the device's own reason. */
export const refusalOf = (exception: number): Refusal => refusals.get(exception) ?? 'device';
