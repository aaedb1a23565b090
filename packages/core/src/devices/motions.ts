/** Small laws that several devices move by. */

export const clamp = (value: number, minimum: number, maximum: number): number =>
  Math.max(minimum, Math.min(maximum, value));

/** Where a first-order lag has come after some time; `time` in the same unit. */
export const lag = (now: number, target: number, elapsed: number, time: number): number =>
  time <= 0 ? target : target + (now - target) * Math.exp(-elapsed / time);

/** One step towards a target at a rate. */
export const towards = (now: number, target: number, maximum: number): number =>
  Math.abs(target - now) <= maximum ? target : now + Math.sign(target - now) * maximum;

/** One step of a move with limited speed and acceleration that is to stop at a place (trapezoid). */
export function glide(
  { position, speed }: { position: number; speed: number },
  target: number,
  limits: { speed: number; acceleration: number },
  seconds: number,
): { position: number; speed: number } {
  const distance = target - position;
  const stopping = Math.sqrt(2 * limits.acceleration * Math.abs(distance));
  const wanted = Math.sign(distance) * Math.min(limits.speed, stopping);
  const next = towards(speed, wanted, limits.acceleration * seconds);
  const moved = position + ((speed + next) / 2) * seconds;
  const passed = Math.sign(target - moved) !== Math.sign(distance) || Math.abs(distance) < 1e-6;
  // The last step of a sampled move would overshoot by less than one step: it lands.
  return passed && Math.abs(next) <= limits.acceleration * seconds * 2
    ? { position: target, speed: 0 }
    : { position: moved, speed: next };
}
