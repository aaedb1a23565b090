import type { Behaviour, ConnectionPoint } from '@fadenkreuz/core/devices';
import type { SimulatedPoint } from '../protocols/driver.js';

/** A feedback point that the behaviour fills: how many bytes it writes, also where a fault has resized it. */
interface Shown {
  point: SimulatedPoint;
  described: ConnectionPoint;
  size: number;
}

/** The described points of a stand-in with their bytes. */
export class Points {
  private points: SimulatedPoint[] = [];
  private shown: Shown[] = [];

  constructor(
    private readonly behaviour: Pick<Behaviour<unknown>, 'feedback'>,
    private readonly own: readonly ConnectionPoint[],
  ) {
    this.offer(own);
  }

  /** The points as they are now; another array when one of them has changed. */
  readonly all = (): readonly SimulatedPoint[] => this.points;

  /** Takes over what is offered from now on; bytes of points whose size stays are kept. */
  offer(described: readonly ConnectionPoint[]): void {
    const before = this.points;
    this.points = described.map(({ number, use, size, registers }) => {
      const known = before.find((p) => p.number === number && p.use === use);
      return known?.size === size ? known : { number, use, size, registers, bytes: new Uint8Array(size) };
    });
    this.shown = described.flatMap((one, i) => {
      const own = this.own.find((a) => a.number === one.number && a.use === one.use);
      return one.use === 'feedback' && own
        ? [{ point: this.points[i]!, described: one, size: own.size }]
        : [];
    });
  }

  of(use: SimulatedPoint['use']): SimulatedPoint | undefined {
    return this.points.find((p) => p.use === use);
  }

  clear(): void {
    for (const { bytes } of this.points) bytes.fill(0);
  }

  /**
   * Writes what the behaviour shows; `also` may change it before it is seen. A hot path: fifty times a second for each
   * stand-in.
   */
  show(also: (described: ConnectionPoint, into: Uint8Array) => void): void {
    for (const { point, described, size } of this.shown) {
      const { number, bytes } = point;
      // A resized device shows as much of its feedback as fits.
      const whole = bytes.length >= size ? bytes : new Uint8Array(size);
      this.behaviour.feedback(whole, number);
      also(described, whole);
      if (whole !== bytes) bytes.set(whole.subarray(0, bytes.length));
    }
  }
}
