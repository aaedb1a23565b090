import { dueAfter, earlyEnough, type Beat } from './beat.js';
import { Metronome, nextOnClock } from './metronome.js';
import { packetGrid, PacketBeats, type PacketSender } from './packetBeats.js';
import { BackgroundBeats } from './backgroundBeats.js';

export interface BeatOptions {
  /** Begins anywhere within its period, so that beats that were added together do not fall due together. */
  spread?: boolean;
  /** May wait until everything else that is due has run: work that no packet waits for. */
  patient?: boolean;
}

/** What can wait is due on multiples of this, ms: when packets leave anyway, and not with each of them. */
const patientGrid = 5;
/**
 * Packets at this interval or a shorter one are worth a metronome, ms: of a longer one a millisecond is a small part.
 */
const quick = 20;

const goldenRatio = (Math.sqrt(5) - 1) / 2;
/** Wake-ups that are remembered to tell how late they are. */
const remembered = 400;

/**
 * One schedule for everything cyclic. Due times are counted from the first one, so that a late wake-up does not shift
 * those that follow; a beat that was missed as a whole is left out, not made up for in a burst.
 */
export class Schedule {
  private readonly packetBeats = new PacketBeats();
  private readonly others = new Set<Beat>();
  private readonly patient = new BackgroundBeats();
  /** When the next packets may leave: those that are due first, once what came in has had its share of the time. */
  private packetsDue = Infinity;
  /**
   * Sending goes on no earlier. On a computer that is too slow for both, what is due would always be sent first,
   * nothing would ever be read, and every connection would time out.
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
    const first = options.spread ? this.anywhere(periodMs) : performance.now() + periodMs;
    const stop = addTo(options.patient ? this.patient : this.others, periodMs, first, run);
    this.arrange();
    return stop;
  }

  /**
   * Has a packet sent every so often, beginning anywhere within the interval; returns the way to stop it. Packets with
   * the same name `beside` and of one interval leave together: from one sender or for one receiver, which then wakes
   * once for all of them.
   */
  packets(periodMs: number, sender: PacketSender, beside?: string): () => void {
    const stop = this.packetBeats.add(periodMs, this.anywhere(periodMs), sender, beside);
    if (periodMs <= quick) this.beQuick();
    this.arrange();
    return stop;
  }

  private anywhere(periodMs: number): number {
    // Multiples of the golden ratio lie as far apart on a circle as they can.
    return performance.now() + periodMs * ((this.added++ * goldenRatio) % 1 || 1);
  }

  stop(): void {
    for (const kind of [this.packetBeats, this.others, this.patient]) kind.clear();
    clearTimeout(this.timer);
    clearImmediate(this.rest);
    this.metronome?.stop();
    this.metronome = undefined;
  }

  /** From now on a millisecond counts. */
  private beQuick(): void {
    if (this.metronome) return;
    clearTimeout(this.timer);
    this.metronome = new Metronome(packetGrid, this.wake);
  }

  /** Has itself woken for what is due next. */
  private arrange(): void {
    let next = Infinity;
    this.packetsDue = this.nextPackets();
    for (const beat of this.others) if (beat.due < next) next = beat.due;
    // What can wait does so until packets are due anyway: each waking costs as much as several packets. What was left
    // over has its own turn coming.
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
   * Sends the packets that are due. Called by whoever has read the clock for a packet that came: hundreds may have
   * come, and those that are due must not wait until all of them are read.
   */
  runDue(now: number): void {
    if (now < this.packetsDue) return;
    this.noteLate(now, this.sendPackets(now, 0));
    this.packetsDue = this.nextPackets();
    // Nobody need be woken for what has left.
    this.metronome?.wakeAt(Math.min(this.packetsDue, this.othersDue));
  }

  /** Hot path: hundreds of packets leave hundreds of times a second. */
  private readonly wake = (): void => {
    const now = performance.now();
    let earliest = now < this.readUntil ? now : this.sendPackets(now, earlyEnough);
    for (const beat of this.others)
      if (beat.due - now <= earlyEnough) {
        earliest = Math.min(earliest, beat.due);
        beat.due = dueAfter(beat, now);
        beat.run(now);
      }
    this.noteLate(now, earliest);
    this.runPatient(now);
    this.arrange();
  };

  /**
   * Sends what is due at `now`, or so many ms later; gives the moment at which the first of it was due, at most `now`.
   */
  private sendPackets(now: number, early: number): number {
    const due = this.packetBeats.send(now, early);
    const done = performance.now();
    this.readUntil = done + (done - now);
    return due;
  }

  private nextPackets(): number {
    return Math.max(this.packetBeats.earliest, this.readUntil);
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
        // While they had this turn coming, nothing woke the schedule for those that were overdue: perhaps nothing at
        // all.
        this.arrange();
      });
  }
}

/** Adds a beat to those of its kind; returns the way to stop it. */
function addTo(
  kind: { add: (beat: Beat) => void; delete: (beat: Beat) => void },
  period: number,
  due: number,
  run: (now: number) => void,
): () => void {
  const beat: Beat = { period, due, run };
  kind.add(beat);
  return () => kind.delete(beat);
}
