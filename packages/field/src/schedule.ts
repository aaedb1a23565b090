import { earlyEnough, take, type Beat } from './beat.js';
import { Metronome, nextOnClock } from './metronome.js';
import { PatientBeats } from './patientBeats.js';

export interface BeatOptions {
  /** Sends a packet: begins anywhere within its period, so that beats that were added together do not fall due together. */
  spread?: boolean;
  /** Packets with the same name here and of one interval leave together: for one receiver, which then wakes once for all of them. */
  beside?: string;
  /** May wait until everything else that is due has run: work that no packet waits for. */
  patient?: boolean;
}

/** Packets are due on multiples of this, ms: a coarser grid makes bursts, each late as a whole after one halt; a finer one wakes for a few packets each. */
const grid = 1.25;
/** What can wait is due on multiples of this, ms: when packets leave anyway, and not with each of them. */
const patientGrid = 5;
/** Packets at this interval or a shorter one are worth a metronome, ms: of a longer one a millisecond is a small part. */
const quick = 20;

const goldenRatio = (Math.sqrt(5) - 1) / 2;
/** Wake-ups that are remembered to tell how late they are. */
const remembered = 400;

/**
 * One schedule for everything cyclic. Due times are counted from the first one, so that a late wake-up does not shift those that
 * follow; a beat that was missed as a whole is left out, not made up for in a burst.
 */
export class Schedule {
  /** What sends packets. */
  private readonly packets = new Set<Beat>();
  /** Beats of packets by interval and name. */
  private readonly named = new Map<string, Beat>();
  private readonly others = new Set<Beat>();
  private readonly patient = new PatientBeats();
  /** When the next packets may leave: those that are due first, once what came in has had its share of the time. */
  private packetsDue = Infinity;
  /**
   * Sending goes on no earlier. On a computer that is too slow for both, what is due would always be sent first, nothing would ever be
   * read, and every connection would time out.
   */
  private readUntil = -Infinity;
  /** When to wake for anything else. */
  private othersDue = Infinity;
  private rest: NodeJS.Immediate | undefined;
  private added = 0;
  private timer: NodeJS.Timeout | undefined;
  private metronome: Metronome | undefined;
  private readonly late = new Float64Array(remembered);
  private wakes = 0;

  /** What 99 of 100 of the last wake-ups were late by at most, ms: what this computer itself adds to every interval. */
  lateness(): number {
    const length = Math.min(this.wakes, remembered);
    return length === 0 ? 0 : this.late.slice(0, length).sort()[Math.ceil(0.99 * length) - 1]!;
  }

  /** Runs now + period, now + 2 periods, …; returns the way to stop it. */
  every(periodMs: number, run: (now: number) => void, options: BeatOptions = {}): () => void {
    // Multiples of the golden ratio lie as far apart on a circle as they can.
    const first =
      performance.now() + (options.spread ? periodMs * ((this.added++ * goldenRatio) % 1 || 1) : periodMs);
    const packets = options.spread && !options.patient;
    const kind = packets ? this.packets : options.patient ? this.patient : this.others;
    const due = packets ? nextOnClock(first, grid) : first;
    const turn = { run };
    const name = packets && options.beside !== undefined ? `${periodMs} ${options.beside}` : undefined;
    const beat: Beat = (packets && this.packetsWith(periodMs, due, name)) || {
      period: periodMs,
      due,
      turns: new Set(),
    };
    beat.turns.add(turn);
    kind.add(beat);
    if (name !== undefined) this.named.set(name, beat);
    if (packets && periodMs <= quick && !this.metronome) {
      clearTimeout(this.timer);
      this.metronome = new Metronome(grid, this.wake);
    }
    this.arrange();
    return () => {
      beat.turns.delete(turn);
      if (beat.turns.size === 0) kind.delete(beat);
    };
  }

  stop(): void {
    for (const kind of [this.packets, this.named, this.others, this.patient]) kind.clear();
    clearTimeout(this.timer);
    clearImmediate(this.rest);
    this.metronome?.stop();
    this.metronome = undefined;
  }

  /** Packets of one interval share few beats: with hundreds of links, only those that are due are gone through. */
  private packetsWith(period: number, due: number, name: string | undefined): Beat | undefined {
    const named = name === undefined ? undefined : this.named.get(name);
    if (named && this.packets.has(named)) return named;
    for (const beat of this.packets) {
      const apart = (due - beat.due) / period;
      if (beat.period === period && Math.abs(apart - Math.round(apart)) < 1e-6) return beat;
    }
    return undefined;
  }

  /** Has itself woken for what is due next. */
  private arrange(): void {
    let next = Infinity;
    this.packetsDue = this.nextPackets();
    for (const beat of this.others) if (beat.due < next) next = beat.due;
    // What can wait does so until packets are due anyway: each waking costs as much as several packets. What was left over has its own
    // turn coming.
    const rest = this.rest ? Infinity : nextOnClock(this.patient.due, patientGrid);
    this.othersDue = Math.min(next, rest);
    next = Math.min(this.packetsDue, this.othersDue);
    if (this.metronome) {
      this.metronome.wakeAt(next);
      return;
    }
    clearTimeout(this.timer);
    if (next < Infinity) this.timer = setTimeout(this.wake, Math.max(0, next - performance.now()));
  }

  /**
   * Sends the packets that are due. Called by whoever has read the clock for a packet that came: hundreds may have come, and those that
   * are due must not wait until all of them are read.
   */
  glance(now: number): void {
    if (now < this.packetsDue) return;
    this.noteLate(now, this.sendPackets(now, 0));
    this.packetsDue = this.nextPackets();
    // Nobody need be woken for what has left.
    this.metronome?.wakeAt(Math.min(this.packetsDue, this.othersDue));
  }

  /** Hot path: hundreds of packets leave hundreds of times a second. */
  private readonly wake = (): void => {
    const now = performance.now();
    const earliest = now < this.readUntil ? now : this.sendPackets(now, earlyEnough);
    this.noteLate(now, Math.min(earliest, takeDue(this.others, now, earlyEnough)));
    this.runPatient(now);
    this.arrange();
  };

  /** Sends what is due at `now`, or so many ms later; gives the moment at which the first of it was due, at most `now`. */
  private sendPackets(now: number, early: number): number {
    const due = takeDue(this.packets, now, early);
    const done = performance.now();
    this.readUntil = done + (done - now);
    return due;
  }

  private nextPackets(): number {
    return Math.max(earliestOf(this.packets), this.readUntil);
  }

  private noteLate(now: number, due: number): void {
    this.late[this.wakes++ % remembered] = now - due;
  }

  /** Runs patient beats for a moment, what is left after the sockets have had their turn. */
  private runPatient(now: number): void {
    clearImmediate(this.rest);
    this.rest = undefined;
    if (this.patient.run(now))
      this.rest = setImmediate(() => {
        this.runPatient(performance.now());
        // While they had this turn coming, nothing woke the schedule for those that were overdue: perhaps nothing at all.
        this.arrange();
      });
  }
}

function earliestOf(beats: ReadonlySet<Beat>): number {
  let earliest = Infinity;
  for (const { due } of beats) if (due < earliest) earliest = due;
  return earliest;
}

/** Takes the turns of all beats that are due at `now`, or so many ms later; gives the moment at which the first was due, at most `now`. */
function takeDue(beats: ReadonlySet<Beat>, now: number, early: number): number {
  let earliest = now;
  for (const beat of beats) {
    if (beat.due - now > early) continue;
    if (beat.due < earliest) earliest = beat.due;
    take(beat, now);
  }
  return earliest;
}
