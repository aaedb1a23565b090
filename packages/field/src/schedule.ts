import { Metronome } from './metronome.js';

/** Something that is due again and again; times in ms of `performance.now()`. */
interface Beat {
  period: number;
  due: number;
  run: (now: number) => void;
}

export interface BeatOptions {
  /** Sends a packet: begins anywhere within its period, so that beats that were added together do not fall due together. */
  spread?: boolean;
  /** May wait until everything else that is due has run: work that no packet waits for. */
  patient?: boolean;
}

/** A timer may wake this much too early and still be taken as on time; Node's timers count whole milliseconds. */
const earlyEnough = 0.5;
/** Packets are due on multiples of this, ms: those of one moment leave together, and each always with the same others; fewer wake-ups leave more of the core. */
const grid = 5;
/** Packets at this interval or a shorter one are worth a metronome, ms: of a longer one a millisecond is a small part. */
const quick = 20;

const onGrid = (time: number): number => Math.ceil(time / grid) * grid;

const goldenRatio = (Math.sqrt(5) - 1) / 2;
/** Time for patient beats before the sockets are looked at again, ms. */
const patientMs = 0.4;
/** Wake-ups that are remembered to tell how late they are. */
const remembered = 400;

/**
 * One schedule for everything cyclic. Due times are counted from the first one, so that a late wake-up does not shift those that
 * follow; a beat that was missed as a whole is left out, not made up for in a burst.
 */
export class Schedule {
  private readonly beats = new Set<Beat>();
  private readonly patient = new Set<Beat>();
  private rest: NodeJS.Immediate | undefined;
  private added = 0;
  private timer: NodeJS.Timeout | undefined;
  private metronome: Metronome | undefined;
  private readonly late = new Float64Array(remembered);
  private wakes = 0;
  private wanted = 0;

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
    const beat: Beat = { period: periodMs, due: packets ? onGrid(first) : first, run };
    if (packets && periodMs <= quick) this.metronome ??= new Metronome(this.wake);
    const kind = options.patient ? this.patient : this.beats;
    kind.add(beat);
    this.arrange();
    return () => {
      kind.delete(beat);
    };
  }

  stop(): void {
    this.beats.clear();
    this.patient.clear();
    clearTimeout(this.timer);
    clearImmediate(this.rest);
    this.metronome?.stop();
    this.metronome = undefined;
  }

  private arrange(): void {
    let next = Infinity;
    for (const beat of this.beats) if (beat.due < next) next = beat.due;
    for (const beat of this.patient) if (beat.due < next) next = beat.due;
    this.wakeAt(next);
  }

  private wakeAt(next: number): void {
    this.wanted = next;
    if (this.metronome) {
      this.metronome.wakeAt(next);
      return;
    }
    clearTimeout(this.timer);
    if (next < Infinity) this.timer = setTimeout(this.wake, Math.max(0, next - performance.now()));
  }

  /** Hot path: hundreds of beats are gone through a thousand times a second. */
  private readonly wake = (): void => {
    const now = performance.now();
    this.late[this.wakes++ % remembered] = Math.max(0, now - this.wanted);
    let next = Infinity;
    for (const beat of this.beats) {
      if (beat.due - now <= earlyEnough) take(beat, now);
      if (beat.due < next) next = beat.due;
    }
    // What can wait does so until packets are due anyway: each waking costs as much as several packets.
    const rest = this.runPatient(now);
    this.wakeAt(Math.min(next, this.metronome ? onGrid(rest) : rest));
  };

  /** Runs patient beats for a moment, what is left after the sockets have had their turn; returns when the next is due. */
  private runPatient(now: number): number {
    let next = Infinity;
    let enough = false;
    for (const beat of this.patient) {
      if (beat.due - now <= earlyEnough && !enough) {
        take(beat, performance.now());
        enough = performance.now() - now > patientMs;
      }
      if (beat.due - now > earlyEnough && beat.due < next) next = beat.due;
    }
    if (enough) {
      clearImmediate(this.rest);
      this.rest = setImmediate(() => this.runPatient(performance.now()));
    }
    return next;
  }
}

function take(beat: Beat, now: number): void {
  beat.due += beat.period * Math.max(1, Math.floor((now - beat.due) / beat.period) + 1);
  beat.run(now);
}
