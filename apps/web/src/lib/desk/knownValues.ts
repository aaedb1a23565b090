import type { KnownValue } from '../api/parameters.js';

/** The last that is known of the parameters of all devices. */
export type KnownValues = ReadonlyMap<string, KnownValue>;

const keyOf = (device: string, parameter: string) => `${device} ${parameter}`;

export const nothingKnown = (): KnownValues => new Map();

/** What is known with what became known. */
export const withValues = (known: KnownValues, values: readonly KnownValue[]): KnownValues =>
  new Map([...known, ...values.map((v) => [keyOf(v.device, v.parameter), v] as const)]);

export const valueOf = (known: KnownValues, device: string, parameter: string): KnownValue | undefined =>
  known.get(keyOf(device, parameter));

/** What was read of a device, by parameter, as hex pairs. */
export const readOf = (known: KnownValues, device: string): Map<string, string> =>
  new Map(
    [...known.values()].flatMap((v): [string, string][] =>
      v.device === device && v.bytes !== null ? [[v.parameter, v.bytes]] : [],
    ),
  );
