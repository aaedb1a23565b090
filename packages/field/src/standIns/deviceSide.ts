import { codecOf, imageStretches, Problem, type Link, type SideValue, type Signal } from '@fadenkreuz/core';
import { movingValue, type ConnectionPoint, type DescriptionOf } from '@fadenkreuz/core/devices';

/** A signal that is set by hand, how, and since when. */
interface SetByHand {
  index: number;
  value: SideValue;
  since: number;
  /** The period that the last value of a noise was made for. */
  period: number;
}

/**
 * What a person has a simulated device show on its own side, in the signals of its link's feedback image: it stands
 * over what its kind shows, until it is let go.
 */
export class DeviceSide {
  private codec: ReturnType<typeof codecOf>;
  private image: Uint8Array;
  /** The bits of the image that are set by hand. */
  private mask: Uint8Array;
  private stretches: ReturnType<typeof imageStretches>;
  /** By signal. */
  private readonly set = new Map<string, SetByHand>();

  constructor(
    private link: Link,
    private description: DescriptionOf,
    private readonly random: () => number,
  ) {
    ({
      codec: this.codec,
      image: this.image,
      mask: this.mask,
      stretches: this.stretches,
    } = laidOut(link, description));
  }

  /** What is set by hand, by signal. */
  get held(): { field: string; value: SideValue }[] {
    return [...this.set].map(([field, { value }]) => ({ field, value }));
  }

  /** Takes over another layout; what is set by hand stays where its signal is still there. */
  layOut(link: Link, description: DescriptionOf, now: number): void {
    if (link === this.link && description === this.description) return;
    const before = [...this.set];
    this.link = link;
    this.description = description;
    Object.assign(this, laidOut(link, description));
    this.set.clear();
    for (const [field, { value }] of before)
      try {
        this.take(field, value, now);
      } catch (error) {
        // A signal that is gone, or whose new layout cannot show the value.
        if (!(error instanceof Problem)) throw error;
      }
  }

  /** Shows a value from now on. Throws `edit.unknown`, `value.…` for what the signal cannot show. */
  take(field: string, value: SideValue, now: number): void {
    const index = this.codec.signals.findIndex((s) => s.id === field);
    if (index < 0) throw new Problem('edit.unknown', { what: 'feedback field', id: field });
    if (value.way === 'value') this.put((codec) => codec.setTyped(index, value.value));
    else if ('low' in value)
      // Both ends must fit before anything is shown.
      for (const end of [value.high, value.low]) this.put((codec) => codec.setEngineering(index, end));
    else this.put((codec) => codec.setEngineering(index, 1));
    this.set.set(field, { index, value, since: now, period: -1 });
    this.remask();
  }

  /** The device shows this signal by itself again. */
  letGo(field: string): void {
    this.set.delete(field);
    this.remask();
  }

  /** A hot path: each step of each stand-in with something that moves. */
  move(now: number): void {
    for (const one of this.set.values()) {
      const { value, since, index } = one;
      if (value.way === 'value') continue;
      const elapsed = now - since;
      if (value.way === 'noise') {
        const period = Math.floor(elapsed / value.periodMs);
        if (period === one.period) continue;
        one.period = period;
      }
      this.put((codec) => codec.setEngineering(index, movingValue(value, elapsed, this.random())));
    }
  }

  /** Writes what is set by hand over the bytes that the device shows in one of its points. */
  over({ number, use }: Pick<ConnectionPoint, 'number' | 'use'>, into: Uint8Array): void {
    if (this.set.size === 0) return;
    for (const { point, from, at, bytes } of this.stretches) {
      if (point.number !== number || point.use !== use) continue;
      for (let i = 0; i < bytes && at + i < into.length; i += 1) {
        const mask = this.mask[from + i]!;
        if (mask) into[at + i] = (into[at + i]! & ~mask) | (this.image[from + i]! & mask);
      }
    }
  }

  private put(change: (codec: ReturnType<typeof codecOf>) => void): void {
    const view = new DataView(this.image.buffer);
    this.codec.decode(view);
    change(this.codec);
    this.codec.encode(view);
  }

  private remask(): void {
    this.mask.fill(0);
    for (const { index } of this.set.values()) {
      const signal = this.codec.signals[index]!;
      this.cover(signal);
      const { sign } = signal;
      // A sign of its own stands in another signal, and belongs to the value.
      const partner = sign?.way === 'bit' && this.codec.signals.find((s) => s.id === sign.field);
      if (partner) this.cover(partner);
    }
  }

  /** Adds the bits of a signal: those that differ between all clear and all set. */
  private cover({ at, bits, type, id }: Signal): void {
    const whole = at % 8 === 0 && bits % 8 === 0 && bits > 8;
    if (whole) this.mask.fill(0xff, at >> 3, (at + bits) >> 3);
    else {
      const index = this.codec.signals.findIndex((s) => s.id === id);
      const clear = new DataView(new ArrayBuffer(this.image.length));
      const set = new DataView(new ArrayBuffer(this.image.length));
      this.codec.decode(clear);
      this.codec.setValue(index, type === 'BOOL' ? true : type === 'SINT' ? -1 : 2 ** bits - 1);
      this.codec.encode(set);
      for (let i = 0; i < this.mask.length; i += 1) this.mask[i]! |= set.getUint8(i);
    }
  }
}

function laidOut(link: Link, description: DescriptionOf) {
  const codec = codecOf(link.feedback);
  return {
    codec,
    image: new Uint8Array(codec.bytes),
    mask: new Uint8Array(codec.bytes),
    stretches: imageStretches(link, 'feedback', description),
  };
}
