/**
 * How the parameters of a device are read and written, whatever protocol carries the request. A protocol translates:
 * places into its own addresses, refusals into its own codes (protocols/NAME/refusals.ts).
 */

/** Why a device does not take or give a value. */
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

/** Types of parameter values that stand-ins have: name, bytes, sign. */
export const parameterTypes = {
  USINT: { bytes: 1, signed: false },
  UINT: { bytes: 2, signed: false },
  UDINT: { bytes: 4, signed: false },
  INT: { bytes: 2, signed: true },
  DINT: { bytes: 4, signed: true },
} as const;
export type ParameterType = keyof typeof parameterTypes;

/** What a parameter is, apart from its value. Engineering value = raw × multiplier / divisor. */
export interface ParameterFacts {
  /** Its number in the device, from 1. */
  number: number;
  name: string;
  unit: string;
  help: string;
  type: ParameterType;
  /** Of the raw value, as are maximum and default. */
  minimum: number;
  maximum: number;
  default: number;
  multiplier?: number;
  divisor?: number;
  /** Places behind the point of the engineering value. */
  decimals?: number;
  access: 'read-write' | 'read';
  /** Texts of its values from `minimum` on. */
  texts?: readonly string[];
}

/** One parameter of a kind of device: what it is, and where its raw value stands in the state. */
export interface ParameterOf<State> extends ParameterFacts {
  get: (state: State) => number;
  /** The state with another value, or why not. Values outside the limits never come here. */
  set?: (state: State, raw: number) => State | Refusal;
}

/** The parameters of one running device. */
export interface ParameterTable {
  parameters: readonly ParameterFacts[];
  /** The raw value of a parameter that is in the table. */
  read: (number: number) => number;
  /** Takes a raw value over; the refusal says why not. */
  write: (number: number, raw: number) => Refusal | undefined;
}

/** The parameters of a kind of device on a state that is kept elsewhere. */
export function parameterTable<State>(
  parameters: readonly ParameterOf<State>[],
  state: { get: () => State; set: (next: State) => void },
): ParameterTable {
  const known = new Map(parameters.map((p) => [p.number, p]));
  return {
    parameters,
    read: (number) => known.get(number)!.get(state.get()),
    write: (number, raw) => {
      const parameter = known.get(number);
      if (!parameter) return 'absent';
      if (parameter.access === 'read' || !parameter.set) return 'read-only';
      if (raw < parameter.minimum || raw > parameter.maximum) return 'range';
      const next = parameter.set(state.get(), raw);
      if (typeof next === 'string') return next as Refusal;
      state.set(next);
      return undefined;
    },
  };
}
