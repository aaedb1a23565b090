/** What is due again and again, all of it at the same moments; times in ms of `performance.now()`. */
export interface Beat {
  period: number;
  due: number;
  turns: Set<Turn>;
}

export interface Turn {
  run: (now: number) => void;
}

/** A timer may wake this much too early and still be taken as on time; Node's timers count whole milliseconds. */
export const earlyEnough = 0.5;

/** The next due time of a beat that is run at `now`: on its own grid, and what was missed as a whole is left out. */
export const dueAfter = ({ due, period }: Beat, now: number): number =>
  due + period * Math.max(1, Math.floor((now - due) / period) + 1);

/** Runs all turns of a beat. */
export function take(beat: Beat, now: number): void {
  beat.due = dueAfter(beat, now);
  for (const turn of beat.turns) turn.run(now);
}
