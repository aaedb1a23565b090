import { dueAfter, type Due } from './beat.js';
import { nextOnClock } from './metronome.js';

/**
 * Packets leave on multiples of this, ms. A coarser grid makes bursts, each late as a whole after one halt; a finer one wakes for a few packets
 * each. A process that is busy most of the time has no time to wake that often (bench/cyclic).
 */
export const grids = { atEase: 1.25, busy: 5 } as const;

/** What sends one packet again and again. */
export interface PacketSender {
  send(now: number): void;
}

interface PacketBeat extends Due {
  senders: PacketSender[];
  /** When it is really sent: when it is due, or at the next place of the coarse grid. */
  leaves: number;
}

/** Beats that send packets. Packets of one interval share few beats: with hundreds of links, only those that are due are gone through. */
export class PacketBeats {
  private readonly all = new Set<PacketBeat>();
  /** By interval and the name of what leaves together. */
  private readonly named = new Map<string, PacketBeat>();
  private coarse = false;

  /** When the first leaves; Infinity when there is none. */
  get earliest(): number {
    let earliest = Infinity;
    for (const { leaves } of this.all) if (leaves < earliest) earliest = leaves;
    return earliest;
  }

  /** `first`: about when it is due for the first time. Returns the way to stop it. */
  add(period: number, first: number, sender: PacketSender, beside: string | undefined): () => void {
    const name = beside === undefined ? undefined : `${period} ${beside}`;
    const due = nextOnClock(first, grids.atEase);
    const beat =
      (name === undefined ? undefined : this.named.get(name)) ??
      this.with(period, due) ??
      this.leaving({ period, due, senders: [], leaves: due });
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

  /** Whether this process is busy: then packets leave in fewer bursts, each stream up to 4 ms later than before, and evenly again. */
  set busy(busy: boolean) {
    if (busy === this.coarse) return;
    this.coarse = busy;
    for (const beat of this.all) this.leaving(beat);
  }

  /** Sends what is to leave at `now`, or so many ms later; gives the moment at which the first was to leave, at most `now`. */
  send(now: number, early: number): number {
    let earliest = now;
    for (const beat of this.all) {
      if (beat.leaves - now > early) continue;
      if (beat.leaves < earliest) earliest = beat.leaves;
      beat.due = dueAfter(beat, now);
      this.leaving(beat);
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

  /** Says when a beat leaves. An interval that is no multiple of the coarse grid would come out uneven on it. */
  private leaving(beat: PacketBeat): PacketBeat {
    const coarse = this.coarse && beat.period % grids.busy === 0;
    beat.leaves = coarse ? nextOnClock(beat.due, grids.busy) : beat.due;
    return beat;
  }
}
