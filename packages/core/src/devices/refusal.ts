/**
 * Why a device does not take or give the value of a parameter, whatever protocol carries the request. A protocol
 * translates it into its own code (protocols/NAME/refusals.ts).
 */
export const refusals = [
  /** There is no such parameter. */
  'absent',
  /** It can be read only. */
  'read-only',
  /** The value is outside its limits. */
  'range',
  /** Not in the state that the device is in, such as while it runs. */
  'state',
  /** A key parameter must be set first. */
  'locked',
  /** It has another number of bytes. */
  'size',
  /** The device has no time for it now; later it may. */
  'busy',
  /** The device itself cannot, for a reason of its maker's own. */
  'device',
] as const;
export type Refusal = (typeof refusals)[number];
