import { z } from 'zod';

/** A value that stays in sight, whatever device is chosen. */
const Pin = z.object({ image: z.string(), signal: z.string() });
export type Pin = z.infer<typeof Pin>;

/** Pinned values of a cell, kept by this browser. */
export class Pins {
  list = $state.raw<readonly Pin[]>([]);
  private readonly key: string;

  constructor(cellId: string) {
    this.key = `pins ${cellId}`;
    if (typeof localStorage !== 'undefined') this.list = read(localStorage.getItem(this.key));
  }

  has(signal: string): boolean {
    return this.list.some((pin) => pin.signal === signal);
  }

  /** Pins a value, or lets it go. */
  toggle(pin: Pin): void {
    this.list = this.has(pin.signal)
      ? this.list.filter(({ signal }) => signal !== pin.signal)
      : [...this.list, pin];
    this.keep();
  }

  /** Puts them into the order of these signals. */
  reorder(signals: readonly string[]): void {
    this.list = signals.flatMap((signal) => this.list.find((pin) => pin.signal === signal) ?? []);
    this.keep();
  }

  private keep(): void {
    localStorage.setItem(this.key, JSON.stringify(this.list));
  }
}

function read(kept: string | null): readonly Pin[] {
  try {
    return z.array(Pin).parse(JSON.parse(kept ?? '[]'));
  } catch {
    // Whatever stands there was not written by us.
    return [];
  }
}
