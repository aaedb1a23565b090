/** When something is due again and again; times in ms of `performance.now()`. */
export interface Due {
  period: number;
  due: number;
}

/** Something that is due again and again. */
export interface Beat extends Due {
  run: (now: number) => void;
}

/** A timer may wake this much too early and still be taken as on time; Node's timers count whole milliseconds. */
export const earlyEnough = 0.5;

/**
 * The next due time after a run at `now`: a late one does not shift those that follow, and what was missed as a whole
 * is left out.
 */
export const dueAfter = ({ due, period }: Due, now: number): number =>
  due + period * Math.max(1, Math.floor((now - due) / period) + 1);
