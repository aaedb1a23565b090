/**
 * Moves from rest to rest: trapezoids, and S-curves whose acceleration changes by a limited jerk. A move is a row of
 * segments of constant jerk, so that everything that follows from it can be said in closed form. Units of the axis, s.
 */

/** The limits of a move; `jerk` null: the acceleration is there at once. */
export interface MoveLimits {
  distance: number;
  velocity: number;
  acceleration: number;
  deceleration: number;
  jerk: number | null;
}

/** A piece of a move in which the jerk is constant, and what holds at its begin. */
export interface Segment {
  /** s from the begin of the move; how long it lasts. */
  begin: number;
  lasts: number;
  position: number;
  velocity: number;
  acceleration: number;
  jerk: number;
}

export interface MoveProfile {
  segments: readonly Segment[];
  /** s of the whole move. */
  lasts: number;
  /** What it reaches: below the limits where the way is short. */
  peakVelocity: number;
  peakAcceleration: number;
}

/** What holds at a moment of a move. */
export interface Moment {
  position: number;
  velocity: number;
  acceleration: number;
}

/** From rest to a velocity: how long, and the acceleration that it reaches. */
function ramp(velocity: number, acceleration: number, jerk: number | null): { lasts: number; peak: number } {
  if (jerk === null) return { lasts: velocity / acceleration, peak: acceleration };
  if (velocity * jerk >= acceleration ** 2)
    return { lasts: velocity / acceleration + acceleration / jerk, peak: acceleration };
  const peak = Math.sqrt(velocity * jerk);
  return { lasts: (2 * peak) / jerk, peak };
}

/** The highest velocity from which a way still suffices to speed up and to stop; it grows with the velocity. */
function reachable({ distance, velocity, acceleration, deceleration, jerk }: MoveLimits): number {
  const way = Math.abs(distance);
  // Both ramps are symmetric in time: their mean velocity is half of what they reach.
  const needs = (v: number) =>
    (v / 2) * (ramp(v, acceleration, jerk).lasts + ramp(v, deceleration, jerk).lasts);
  if (needs(velocity) <= way) return velocity;
  if (jerk === null)
    return Math.sqrt((2 * way * acceleration * deceleration) / (acceleration + deceleration));
  let [low, high] = [0, velocity];
  for (let i = 0; i < 100; i += 1) {
    const middle = (low + high) / 2;
    if (needs(middle) <= way) low = middle;
    else high = middle;
  }
  return low;
}

/** Jerk and time of the pieces of a ramp from rest; of one to rest they come with the other sign. */
function rampPieces(
  velocity: number,
  limit: number,
  jerk: number | null,
): { jerk: number; lasts: number; from: number }[] {
  const { lasts, peak } = ramp(velocity, limit, jerk);
  if (jerk === null) return [{ jerk: 0, lasts, from: peak }];
  const rises = peak / jerk;
  return [
    { jerk, lasts: rises, from: 0 },
    { jerk: 0, lasts: Math.max(0, lasts - 2 * rises), from: peak },
    { jerk: -jerk, lasts: rises, from: peak },
  ];
}

/** The move with the shortest time within its limits, which are above 0. */
export function moveProfile(limits: MoveLimits): MoveProfile {
  const { distance, acceleration, deceleration, jerk } = limits;
  const way = Math.abs(distance);
  if (way === 0) return { segments: [], lasts: 0, peakVelocity: 0, peakAcceleration: 0 };
  const sign = Math.sign(distance);
  const peakVelocity = reachable(limits);
  const [up, down] = [
    rampPieces(peakVelocity, acceleration, jerk),
    rampPieces(peakVelocity, deceleration, jerk),
  ];
  const [speedsUp, stops] = [ramp(peakVelocity, acceleration, jerk), ramp(peakVelocity, deceleration, jerk)];
  const level = Math.max(0, way - (peakVelocity / 2) * (speedsUp.lasts + stops.lasts)) / peakVelocity;
  const pieces = [
    ...up,
    { jerk: 0, lasts: level, from: 0 },
    ...down.map((piece) => ({ ...piece, jerk: -piece.jerk, from: -piece.from })),
  ].filter((piece) => piece.lasts > 0);
  const segments: Segment[] = [];
  let at = { begin: 0, position: 0, velocity: 0 };
  for (const { jerk: change, lasts, from } of pieces) {
    const segment = { ...at, lasts, acceleration: sign * from, jerk: sign * change };
    segments.push(segment);
    const { position, velocity } = within(segment, lasts);
    at = { begin: at.begin + lasts, position, velocity };
  }
  return {
    ...{ segments, lasts: at.begin, peakVelocity },
    peakAcceleration: Math.max(speedsUp.peak, stops.peak),
  };
}

/** What holds `seconds` behind the begin of a segment. */
export const within = (
  { position, velocity, acceleration, jerk }: Segment,
  seconds: number,
): Moment & { position: number } => ({
  position: position + seconds * (velocity + seconds * (acceleration / 2 + (seconds * jerk) / 6)),
  velocity: velocity + seconds * (acceleration + (seconds * jerk) / 2),
  acceleration: acceleration + seconds * jerk,
});

/** What holds at a moment of the move; before it the axis stands at 0, behind it at its distance. */
export function momentOf({ segments, lasts }: MoveProfile, seconds: number): Moment {
  const last = segments.at(-1);
  if (!last || seconds <= 0) return { position: 0, velocity: 0, acceleration: 0 };
  if (seconds >= lasts) return { position: within(last, last.lasts).position, velocity: 0, acceleration: 0 };
  const segment = segments[segments.findIndex(({ begin, lasts: s }) => seconds < begin + s)] ?? last;
  return within(segment, seconds - segment.begin);
}
