import { nextSeed, swing } from '@fadenkreuz/core/devices';

/** What is wrong with the way between a stand-in and the network; shares from 0 to 1. */
export interface CableTrouble {
  /** Nothing passes in either direction. */
  pulled: boolean;
  lost: number;
  doubled: number;
  /** Share of packets that come late, and by how many ms. */
  delayed: number;
  delayMs: number;
  /** Share of packets that change places with the next one. */
  reordered: number;
}

export const soundCable: CableTrouble = {
  pulled: false,
  lost: 0,
  doubled: 0,
  delayed: 0,
  delayMs: 0,
  reordered: 0,
};

/** Towards the device, or from it. */
export type Way = 'in' | 'out';

/** A later packet that never comes must not hold its forerunner for longer than this, ms. */
const longestSwap = 200;

/** The cable of a stand-in: what it carries passes here, and its troubles are acted out; repeatable by its seed. */
export class Cable {
  private trouble = soundCable;
  private sound = true;
  /** The packet that the next one is to overtake, each way. */
  private readonly held: Record<Way, (() => void) | undefined> = { in: undefined, out: undefined };
  private readonly waiting = new Set<NodeJS.Timeout>();
  private readonly listeners = new Set<() => void>();
  private seed: number;

  constructor(seed: number) {
    this.seed = nextSeed(seed);
  }

  get pulled(): boolean {
    return this.trouble.pulled;
  }

  /** Changes some of its troubles; those who wait for it to be whole again are told. */
  set(part: Partial<CableTrouble>): void {
    this.trouble = { ...this.trouble, ...part };
    const { pulled, lost, doubled, delayed, reordered } = this.trouble;
    this.sound = !pulled && lost + doubled + delayed + reordered === 0;
    if (this.sound) for (const way of ['in', 'out'] as const) this.release(way);
    for (const listener of this.listeners) listener();
  }

  /** Calls back whenever a trouble changes; returns the way to end it. */
  listen(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /**
   * Carries one datagram. `deliver` may be called not at all, twice or later; then with a copy of the packet. It is
   * told the `address` again, so that one function serves all packets.
   */
  carry(
    way: Way,
    packet: Uint8Array,
    deliver: (packet: Uint8Array, address: string) => void,
    address = '',
  ): void {
    if (this.sound) {
      deliver(packet, address);
      return;
    }
    const { trouble } = this;
    if (trouble.pulled || this.happens(trouble.lost)) return;
    // The `slice` of a Buffer would be another view of the same bytes.
    const copy = Uint8Array.from(packet);
    const send = () => deliver(copy, address);
    if (this.happens(trouble.delayed)) {
      this.later(send, trouble.delayMs);
      return;
    }
    if (!this.held[way] && this.happens(trouble.reordered)) {
      this.held[way] = send;
      this.later(() => this.release(way, send), longestSwap);
      return;
    }
    send();
    if (this.happens(trouble.doubled)) send();
    this.release(way);
  }

  close(): void {
    for (const timer of this.waiting) clearTimeout(timer);
    this.waiting.clear();
    this.held.in = this.held.out = undefined;
    this.listeners.clear();
  }

  private release(way: Way, only = this.held[way]): void {
    const send = this.held[way];
    if (!send || send !== only) return;
    this.held[way] = undefined;
    send();
  }

  private later(run: () => void, ms: number): void {
    const timer = setTimeout(() => {
      this.waiting.delete(timer);
      run();
    }, ms);
    this.waiting.add(timer);
  }

  private happens(share: number): boolean {
    if (share <= 0) return false;
    this.seed = nextSeed(this.seed);
    return (swing(this.seed) + 1) / 2 < share;
  }
}
