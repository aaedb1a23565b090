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

/**
 * What a server answers for each reason to refuse a value. That its own work failed is exception 4 (V1.1b3, 6.6, state
 * diagram of function 6); 2 for what can only be read and 3 for a value outside its limits are common practice, no
 * source.
 */
const answers: Record<Refusal, number> = {
  absent: exceptions.illegalAddress,
  'read-only': exceptions.illegalAddress,
  range: exceptions.illegalValue,
  size: exceptions.illegalValue,
  state: exceptions.deviceFailure,
  locked: exceptions.deviceFailure,
  device: exceptions.deviceFailure,
  busy: exceptions.deviceBusy,
};
export const exceptionOf = (refusal: Refusal): number => answers[refusal];

/** What the standard does not tell is the device's own reason. */
export const refusalOf = (exception: number): Refusal => refusals.get(exception) ?? 'device';
