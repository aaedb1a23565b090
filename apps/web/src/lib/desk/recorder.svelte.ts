import { codecOf, imageById, type Cell, type Image } from '@fadenkreuz/core';

/** A signal that is recorded. */
export interface Pick {
  /** Id of the signal. */
  signal: string;
  image: string;
  device: string;
  name: string;
  unit: string;
  direction: Image['direction'];
  bit: boolean;
}

/** The values of all picks at one time; NaN where there was none. */
export interface Sample {
  /** ms since 1970. */
  at: number;
  values: Float64Array;
}

export const maxPicks = 8;
/** Ten minutes at 10 samples a second. */
const maxSamples = 6000;

/** Records picked signals while the bench runs, whatever view is open. */
export class Recorder {
  picks = $state.raw<readonly Pick[]>([]);
  /** Rises with every sample, for views that follow. */
  count = $state(0);
  private samples: Sample[] = [];

  picked(signal: string): boolean {
    return this.picks.some((p) => p.signal === signal);
  }

  /** Adds a signal, or takes it out; what was recorded of the others stays. */
  toggle(pick: Pick): void {
    const at = this.picks.findIndex((p) => p.signal === pick.signal);
    if (at < 0 && this.picks.length >= maxPicks) return;
    this.picks = at < 0 ? [...this.picks, pick] : this.picks.toSpliced(at, 1);
    this.samples = this.samples.map(({ at: time, values }) => {
      const kept = [...values];
      if (at < 0) kept.push(NaN);
      else kept.splice(at, 1);
      return { at: time, values: Float64Array.from(kept) };
    });
  }

  /** Forgets what was recorded; the picks stay. */
  clear(): void {
    this.samples = [];
    this.count += 1;
  }

  /** Takes the values of the picks from the bytes of the images. */
  take(cell: Cell, bytes: ReadonlyMap<string, Uint8Array>, at: number): void {
    if (this.picks.length === 0) return;
    const values = Float64Array.from(this.picks, ({ signal, image }) => valueOf(cell, image, signal));
    this.samples.push({ at, values });
    if (this.samples.length > maxSamples) this.samples.splice(0, this.samples.length - maxSamples);
    this.count += 1;

    function valueOf(within: Cell, imageId: string, signalId: string): number {
      const held = bytes.get(imageId);
      if (!held) return NaN;
      const codec = codecOf(imageById(within, imageId).image);
      if (held.length < codec.bytes) return NaN;
      codec.decode(new DataView(held.buffer, held.byteOffset, held.byteLength));
      const index = codec.signals.findIndex((s) => s.id === signalId);
      return index < 0 ? NaN : codec.numbers[index]!;
    }
  }

  /** What was recorded from a time on. */
  since(from: number): readonly Sample[] {
    const first = this.samples.findIndex((s) => s.at >= from);
    return first < 0 ? [] : this.samples.slice(first);
  }

  get all(): readonly Sample[] {
    return this.samples;
  }

  /** The sample nearest to a time. */
  nearest(at: number): Sample | undefined {
    let best: Sample | undefined;
    for (const sample of this.samples)
      if (!best || Math.abs(sample.at - at) < Math.abs(best.at - at)) best = sample;
    return best;
  }
}
