import { dueAfter, type Due } from './beat.js';
import { nextOnClock } from './metronome.js';

/**
 * Packets leave on multiples of this, ms. A coarser grid makes bursts, each late as a whole after one halt; a finer one
 * wakes for a few packets each (bench/cyclic).
 */
export const packetGrid = 1.25;

/** What sends one packet again and again. */
export interface PacketSender {
  send(now: number): void;
}

interface PacketBeat extends Due {
  senders: PacketSender[];
}

/**
 * Beats that send packets. Packets of one interval share few beats: with hundreds of links, only those that are due are
 * gone through.
 */
export class PacketBeats {
  private readonly all = new Set<PacketBeat>();
  /** By interval and the name of what leaves together. */
  private readonly named = new Map<string, PacketBeat>();

  /** When the first is due; Infinity when there is none. */
  get earliest(): number {
    let earliest = Infinity;
    for (const { due } of this.all) if (due < earliest) earliest = due;
    return earliest;
  }

  /** `first`: about when it is due for the first time. Returns the way to stop it. */
  add(period: number, first: number, sender: PacketSender, beside: string | undefined): () => void {
    const name = beside === undefined ? undefined : `${period} ${beside}`;
    const due = nextOnClock(first, packetGrid);
    const beat: PacketBeat = (name === undefined ? undefined : this.named.get(name)) ??
      this.with(period, due) ?? { period, due, senders: [] };
    beat.senders.push(sender);
    this.all.add(beat);
    if (name !== undefined) this.named.set(name, beat);
    return () => {
      // A new list, for one of them may stop another while the old one is gone through.
      beat.senders = beat.senders.filter((other) => other !== sender);
      if (beat.senders.length > 0) return;
      this.all.delete(beat);
      for (const [key, kept] of this.named) if (kept === beat) this.named.delete(key);
    };
  }

  clear(): void {
    this.all.clear();
    this.named.clear();
  }

  /** Sends what is due at `now`, or so many ms later; gives the moment at which the first was due, at most `now`. */
  send(now: number, early: number): number {
    let earliest = now;
    for (const beat of this.all) {
      if (beat.due - now > early) continue;
      if (beat.due < earliest) earliest = beat.due;
      beat.due = dueAfter(beat, now);
      for (const sender of beat.senders) sender.send(now);
    }
    return earliest;
  }

  private with(period: number, due: number): PacketBeat | undefined {
    for (const beat of this.all) {
      const apart = (due - beat.due) / period;
      if (beat.period === period && Math.abs(apart - Math.round(apart)) < 1e-6) return beat;
    }
    return undefined;
  }
}
