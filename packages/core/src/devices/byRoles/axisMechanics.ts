import { ratedTorqueOf, type DriveTrain } from '../../motion/driveTrain.js';
import { unitShare } from '../../motion/driveUnits.js';
import { loadsOf, torqueAt } from '../../motion/loads.js';
import { clamp, lag } from '../motions.js';
import type { Told } from './commands.js';

/**
 * What hangs on a servo axis: its brake, its limit switches, the mass that it moves, and how far behind its setpoint it
 * is. Where its drive train is planned it acts by that; else by what the machine around it says of a mass.
 */
export interface AxisMechanics {
  /** Where it really is, and how fast; behind the commanded move. Units of its fields. */
  position: number;
  velocity: number;
  /** Per cent of the rated torque; and N·m that are 100 %, where its train says it. */
  torque: number;
  ratedTorque: number | undefined;
  /** A mass lags behind its setpoint like a spring. */
  springs: boolean;
  /** What its motor cannot follow: units, and units/s. */
  behind: number;
  losing: number;
  /** s until its brake is open, and until it holds. */
  opens: number;
  closes: number;
  /** What its limit switches see; and the two are wired to each other's places. */
  limits: { positive: boolean; negative: boolean };
  swapped: boolean;
}

export const atRest: AxisMechanics = {
  ...{ position: 0, velocity: 0, torque: 0, ratedTorque: undefined, springs: false, behind: 0, losing: 0 },
  ...{ opens: 0, closes: 0, limits: { positive: false, negative: false }, swapped: false },
};

/** A moment of the commanded move. */
interface Moment {
  position: number;
  speed: number;
}

/** kg that are balanced; per cent of the rated torque for a kilogram more, and for an acceleration of the mass. */
const balanced = 60;
const torquePerLoad = 0.75;
const torquePerForce = 1 / 9000;
const idleTorque = 5;
/** s in which it catches up what its motor could not follow. */
const catchesUp = 0.05;

/** mm or degrees of one unit of its positions. */
export const unitOf = (told: Told): number => unitShare(told.values.unit('position setpoint')) ?? 1;

/**
 * Its brake opens when it is enabled, and closes when it is not and has come to rest: until it holds, its motor does.
 * One that has not closed yet needs no opening.
 */
export function braked(
  hangs: AxisMechanics,
  told: Told,
  { enabled, moves }: { enabled: boolean; moves: boolean },
): AxisMechanics {
  const { brake } = told.design.train ?? {};
  if (!brake) return { ...hangs, opens: 0, closes: 0 };
  const seconds = told.elapsedMs / 1000;
  const closed = hangs.closes === 0;
  const opens = enabled && closed ? brake.opens / 1000 : Math.max(0, hangs.opens - seconds);
  const closes = enabled || moves ? Math.max(brake.closes / 1000, 1e-9) : Math.max(0, hangs.closes - seconds);
  return { ...hangs, opens, closes };
}

/** The ends: where its setpoint ends, and where somebody presses a limit switch. */
export function atEnds(hangs: AxisMechanics, told: Told): AxisMechanics {
  const ends = told.values.range('position setpoint');
  const { position, swapped } = hangs;
  const high = told.met('limit switch positive') === 1 || (ends !== undefined && position >= ends.high);
  const low = told.met('limit switch negative') === 1 || (ends !== undefined && position <= ends.low);
  return {
    ...hangs,
    limits: swapped ? { positive: low, negative: high } : { positive: high, negative: low },
  };
}

/** Units behind its setpoint at which it reports a fault: by its parameter, else as planned; Infinity where unsaid. */
export function followingLimit(told: Told): number {
  const set = told.parameter('following error limit');
  const own = set && set.value > 0 ? set.value * (unitShare(set.unit) ?? 1) : undefined;
  return (own ?? told.design.train?.followingError ?? Infinity) / unitOf(told);
}

/** One step of what hangs on it, while the command goes from one moment to the next. */
export function followed(
  hangs: AxisMechanics,
  told: Told,
  [before, after]: readonly [Moment, Moment],
  { enabled, blocked }: { enabled: boolean; blocked: boolean },
): AxisMechanics {
  const { train } = told.design;
  const loads = train ? loadsOf(train) : undefined;
  const seconds = told.elapsedMs / 1000;
  const holds = enabled || hangs.closes > 0;
  return train && loads
    ? byTrain({ hangs, told, before, after, train, loads, blocked, holds, seconds })
    : byMass({ hangs, told, before, after, blocked, holds, seconds });
}

interface Step {
  hangs: AxisMechanics;
  told: Told;
  before: Moment;
  after: Moment;
  blocked: boolean;
  /** Its motor has torque. */
  holds: boolean;
  seconds: number;
}

/** The torque that its train asks for; what is more than its motor has leaves it behind. */
function byTrain({
  hangs,
  told,
  before,
  after,
  train,
  loads,
  blocked,
  holds,
  seconds,
}: Step & {
  train: DriveTrain;
  loads: NonNullable<ReturnType<typeof loadsOf>>;
}): AxisMechanics {
  const unit = unitOf(told);
  const load = told.met('load');
  const acceleration = seconds > 0 ? (after.speed - before.speed) / seconds : 0;
  const at = (a: number) => torqueAt(loads, after.speed * unit, a * unit, load);
  const asked = at(acceleration);
  const peak = train.motor!.peakTorque ?? Infinity;
  let { behind, losing } = hangs;
  if (Math.abs(asked) > peak && !blocked) {
    // Torque is linear in the acceleration, as far as power keeps its way.
    const standing = at(0);
    const share = clamp((Math.sign(asked) * peak - standing) / (asked - standing), 0, 1);
    losing += acceleration * (1 - share) * seconds;
    behind += losing * seconds;
  } else {
    losing = 0;
    behind = blocked ? behind : lag(behind, 0, seconds, catchesUp);
  }
  const rated = ratedTorqueOf(train.motor!);
  const percent = rated ? (100 * clamp(asked, -peak, peak)) / rated : idleTorque;
  return {
    ...hangs,
    ...{ behind, losing, springs: false, ratedTorque: rated, velocity: after.speed },
    position: after.position - behind,
    torque: holds ? clamp(lag(hangs.torque, percent, seconds, 0.01), -300, 300) : 0,
  };
}

/** Behind the command what it moves follows like a spring that its mass stretches. */
function byMass({ hangs, told, before, after, blocked, holds, seconds }: Step): AxisMechanics {
  const load = told.met('load');
  const springs = load !== undefined;
  const mass = balanced + (load ?? 0);
  const position =
    !springs || blocked
      ? after.position
      : lag(hangs.position, after.position, seconds, 0.004 + mass / 20_000);
  const velocity = seconds > 0 ? (position - hangs.position) / seconds : 0;
  const force = (mass * (after.speed - before.speed)) / Math.max(seconds, 1e-3);
  const torque = springs ? load * torquePerLoad + force * torquePerForce : idleTorque;
  return {
    ...hangs,
    ...{ position, springs, ratedTorque: undefined, behind: 0, losing: 0 },
    velocity: springs ? lag(hangs.velocity, velocity, seconds, 0.02) : after.speed,
    torque: holds ? clamp(lag(hangs.torque, torque, seconds, 0.01), -300, 300) : 0,
  };
}

/** Torque in the unit of its field: per cent of the rated one, or N·m and the like. */
export function torqueIn(unit: string, { torque, ratedTorque }: AxisMechanics): number {
  const share = unit === '%' ? undefined : unitShare(unit);
  return ratedTorque === undefined || share === undefined || unit === ''
    ? torque
    : (torque * ratedTorque) / 100 / share;
}
