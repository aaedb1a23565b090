import type { KnownValue } from '../api/parameters.js';

/** The last that is known of the parameters of all devices. */
export type KnownValues = ReadonlyMap<string, KnownValue>;

/** A parameter among those of all devices. */
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

/** Of one parameter: ten minutes of one that is read ten times a second. */
const mostSamples = 6000;

/** Each value of watched parameters that was heard. */
export class Samples {
  private readonly kept = new Map<string, KnownValue[]>();

  of(device: string, parameter: string): readonly KnownValue[] {
    return this.kept.get(keyOf(device, parameter)) ?? [];
  }

  take(samples: readonly KnownValue[]): void {
    for (const sample of samples) {
      const key = keyOf(sample.device, sample.parameter);
      const kept = this.kept.get(key) ?? [];
      this.kept.set(key, kept);
      kept.push(sample);
      if (kept.length > mostSamples) kept.splice(0, mostSamples / 10);
    }
  }

  clear(): void {
    this.kept.clear();
  }
}
