/** Small laws that several devices move by. */

export const clamp = (value: number, minimum: number, maximum: number): number =>
  Math.max(minimum, Math.min(maximum, value));

/** Where a first-order lag has come after some time; `time` in the same unit. */
export const lag = (now: number, target: number, elapsed: number, time: number): number =>
  time <= 0 ? target : target + (now - target) * Math.exp(-elapsed / time);

/** One step towards a target at a rate. */
export const towards = (now: number, target: number, maximum: number): number =>
  Math.abs(target - now) <= maximum ? target : now + Math.sign(target - now) * maximum;

/**
 * One step of a move with limited speed and acceleration that is to stop at a place (trapezoid). The speed is the
 * highest from which the rest of the way, after this step, still suffices to stop: a sampled move does not overshoot.
 */
export function glide(
  { position, speed }: { position: number; speed: number },
  target: number,
  limits: { speed: number; acceleration: number },
  seconds: number,
): { position: number; speed: number } {
  const change = limits.acceleration * seconds;
  const towardsIt = Math.sign(target - position);
  // v from (v + speed)/2 · t + v²/2a = distance.
  const root =
    change ** 2 / 4 + 2 * limits.acceleration * Math.abs(target - position) - change * speed * towardsIt;
  const stopping = root > 0 ? Math.max(0, Math.sqrt(root) - change / 2) : 0;
  const next = towards(speed, towardsIt * Math.min(limits.speed, stopping), change);
  const moved = position + ((speed + next) / 2) * seconds;
  const lands =
    Math.abs(target - moved) <= (change * seconds) / 4 &&
    Math.abs(next) <= change &&
    Math.abs(target - position) <= limits.speed * seconds;
  return lands ? { position: target, speed: 0 } : { position: moved, speed: next };
}
