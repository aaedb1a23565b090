import type { DriveTrain, Move } from './driveTrain.js';
import { ratioNumber } from '../layout/ratio.js';
import { feedOf } from './mechanics.js';
import { moveProfile, within, type MoveProfile, type Segment } from './moves.js';

/**
 * What a motor must do for the moves of its axis: moments of inertia at its shaft, torque, power, energy that comes
 * back, and how far the axis goes on when its link is lost. Mechanics as in every handbook of drive engineering (from
 * memory): T = J·α + T_load, T_rms = √(∑T²t / ∑t), E = ½J·ω².
 */

/** Standard gravity, m/s² (ISO 80000-3). */
export const gravity = 9.80665;
const perKgCm2 = 1e-4;
/** rpm of one rad/s. */
const rpm = 60 / (2 * Math.PI);

/** A train of which everything is known that torque follows from. */
export interface Loads {
  /** m, or rad of a table, that one radian of the motor moves; its sign is left to the units. */
  perRadian: number;
  /** m, or rad, of one unit of the axis. */
  perUnit: number;
  rotary: boolean;
  /** kg·m² at the motor: what turns with the motor, what the shaft turns, what moves along a line. */
  motorInertia: number;
  shaftInertia: number;
  massInertia: number;
  /** Of gear and of what makes a move of it, together. */
  efficiency: number;
  train: DriveTrain;
}

export type Missing = 'motor' | 'inertia' | 'output';

/** What is still asked for before anything can be said of torque. */
export const missingOf = ({ motor, output }: DriveTrain): Missing[] => [
  ...(motor ? [] : (['motor'] as const)),
  ...(motor && motor.inertia === null ? (['inertia'] as const) : []),
  ...(output ? [] : (['output'] as const)),
];

const known = new WeakMap<DriveTrain, { loads: Loads | undefined }>();

/** Undefined while something of it is missing. Trains never change: what one comes to is worked out once. */
export function loadsOf(train: DriveTrain): Loads | undefined {
  const found = known.get(train) ?? { loads: workedOut(train) };
  known.set(train, found);
  return found.loads;
}

function workedOut(train: DriveTrain): Loads | undefined {
  const { motor, output, gear, brake, encoder, coupling, load } = train;
  if (missingOf(train).length > 0 || !motor || !output) return undefined;
  const { feed, unit } = feedOf(output);
  const rotary = unit === '°';
  const perUnit = rotary ? Math.PI / 180 : 1e-3;
  const ratio = ratioNumber(gear.motor) / ratioNumber(gear.shaft);
  const perRadian = (feed.valueOf() * perUnit) / (2 * Math.PI) / ratio;
  const atMotor =
    (motor.inertia ?? 0) +
    (brake?.inertia ?? 0) +
    (encoder?.inertia ?? 0) +
    gear.inertia +
    (coupling?.inertia ?? 0);
  return {
    ...{ perRadian, perUnit, rotary, train },
    motorInertia: atMotor * perKgCm2,
    shaftInertia: (load.inertia * perKgCm2) / ratio ** 2,
    massInertia: (load.mass + load.counterweight) * (rotary ? 0 : perRadian ** 2),
    efficiency: gear.efficiency * load.efficiency,
  };
}

/** Moment of inertia of the load over that of the motor alone: common practice asks for 10 at most, no source. */
export const inertiaRatio = (loads: Loads): number => {
  const motor = (loads.train.motor!.inertia ?? 0) * perKgCm2;
  const all = loads.motorInertia + loads.shaftInertia + loads.massInertia;
  return motor === 0 ? Infinity : (all - motor) / motor;
};

/** N·m at the motor without efficiency: of the weight, and of what resists a move; `carries`: kg more. */
function standing(loads: Loads, carries: number): { weight: number; resists: number } {
  const { load } = loads.train;
  const angle = (load.incline * Math.PI) / 180;
  const mass = load.mass + carries;
  // A table carries its load on its axis: no weight, and a torque that resists.
  if (loads.rotary) return { weight: 0, resists: load.resistance * loads.perRadian };
  const friction = load.friction * mass * gravity * Math.cos(angle);
  const weight = (mass * Math.sin(angle) - load.counterweight) * gravity;
  return { weight: weight * loads.perRadian, resists: (friction + load.resistance) * loads.perRadian };
}

/** N·m that hold the axis at rest. */
export const holdingTorque = (loads: Loads, carries = 0): number => standing(loads, carries).weight;

/**
 * How far a load falls, in units of the axis, when its torque is gone at once and before its brake holds: s = ½·a·t²,
 * all that turns being drawn by the weight alone. What drives with an efficiency of η is driven with 2 − 1/η: below
 * a half it holds by itself (handbooks of drive engineering; from memory). 0 where it stays.
 */
export function fallOf(loads: Loads, seconds: number, carries = 0): number {
  const { resists } = standing(loads, carries);
  const draws = Math.abs(holdingTorque(loads, carries)) * (2 - 1 / loads.efficiency) - resists;
  if (draws <= 0) return 0;
  const alpha = draws / (loads.motorInertia + loadInertia(loads, carries));
  return (alpha * Math.abs(loads.perRadian) * seconds ** 2) / 2 / loads.perUnit;
}

/** N·m that the load asks of the motor, without what is lost on the way; linear in the acceleration. */
function loadTorque(loads: Loads, acceleration: number, sign: number, carries: number): number {
  const alpha = (acceleration * loads.perUnit) / loads.perRadian;
  const { weight, resists } = standing(loads, carries);
  return loadInertia(loads, carries) * alpha + weight + resists * sign;
}

/** kg·m² behind the motor. */
const loadInertia = (loads: Loads, carries: number): number =>
  loads.shaftInertia + loads.massInertia + (loads.rotary ? 0 : carries * loads.perRadian ** 2);

/** N·m at the motor; `drives`: power goes to the load, else it comes back. */
function motorTorque(
  loads: Loads,
  acceleration: number,
  sign: number,
  drives: boolean,
  carries: number,
): number {
  const alpha = (acceleration * loads.perUnit) / loads.perRadian;
  const load = loadTorque(loads, acceleration, sign, carries);
  return loads.motorInertia * alpha + (drives ? load / loads.efficiency : load * loads.efficiency);
}

/**
 * N·m of the motor at a velocity and an acceleration of the axis, in its units. What the load needs costs more by the
 * efficiency, what it gives back arrives with less; at rest nothing is lost.
 */
export function torqueAt(loads: Loads, velocity: number, acceleration: number, carries = 0): number {
  const sign = Math.sign(velocity) || Math.sign(acceleration);
  if (sign === 0) return holdingTorque(loads, carries);
  const drives = loadTorque(loads, acceleration, sign, carries) * sign >= 0;
  return motorTorque(loads, acceleration, sign, drives, carries);
}

/** rpm of the motor at a velocity of the axis. */
export const rpmOf = (loads: Loads, velocity: number): number =>
  (rpm * velocity * loads.perUnit) / loads.perRadian;

/** What a cycle of moves asks of motor, drive and braking resistor. */
export interface CycleLoads {
  /** s of the cycle. */
  lasts: number;
  /** N·m */
  peakTorque: number;
  rmsTorque: number;
  /** rpm: the highest, and the mean. */
  peakSpeed: number;
  meanSpeed: number;
  /** W at the shaft: the most that is given, and the most that comes back. */
  peakPower: number;
  peakBraking: number;
  /** J that come back in a cycle; the most of one braking. */
  brakingEnergy: number;
  largestBraking: number;
  /** Each move: its profile, when it begins, and what it carries. */
  moves: { profile: MoveProfile; begin: number; carries: number }[];
}

/** A piece of a segment in which torque changes linearly, and power keeps its way. */
interface Piece {
  segment: Segment;
  from: number;
  to: number;
  carries: number;
}

/** Torque, N·m, and speed, rad/s, at a moment of a piece. */
function inPiece(loads: Loads, { segment, from, to, carries }: Piece): (t: number) => [number, number] {
  const inside = within(segment, (from + to) / 2);
  const sign = Math.sign(inside.velocity) || 1;
  const drives = loadTorque(loads, inside.acceleration, sign, carries) * sign >= 0;
  return (t) => {
    const { velocity, acceleration } = within(segment, t);
    return [
      motorTorque(loads, acceleration, sign, drives, carries),
      (velocity * loads.perUnit) / loads.perRadian,
    ];
  };
}

/** ∫ by Simpson's rule, which is exact up to the third power: torque² is of the second, power of the third. */
function integral(from: number, to: number, f: (t: number) => number): number {
  return ((to - from) / 6) * (f(from) + 4 * f((from + to) / 2) + f(to));
}

/** Where within a segment the load, or the motor, changes between driving and being driven: s behind its begin. */
function turnsIn(loads: Loads, segment: Segment, carries: number): number[] {
  if (segment.jerk === 0) return [];
  const sign = Math.sign(within(segment, segment.lasts / 2).velocity) || 1;
  const { weight, resists } = standing(loads, carries);
  const inertia = loadInertia(loads, carries);
  const constant = weight + resists * sign;
  const toAxis = loads.perRadian / loads.perUnit;
  const zeros = [
    inertia === 0 ? NaN : -constant / inertia,
    ...[1 / loads.efficiency, loads.efficiency].map(
      (share) => (-constant * share) / (loads.motorInertia + inertia * share),
    ),
  ].map((alpha) => (alpha * toAxis - segment.acceleration) / segment.jerk);
  return zeros.filter((t) => t > 0 && t < segment.lasts).sort((a, b) => a - b);
}

/** The pieces of a move, in its order. */
const piecesOf = (loads: Loads, { segments }: MoveProfile, carries: number): Piece[] =>
  segments.flatMap((segment) => {
    const cuts = [0, ...turnsIn(loads, segment, carries), segment.lasts];
    return cuts.slice(1).map((to, i) => ({ segment, from: cuts[i]!, to, carries }));
  });

/** The most of a piece is looked for at so many points: its power is of the third power. */
const points = 16;

/** What the moves of a train ask for, one after the other, again and again. */
export function cycleOf(loads: Loads, moves: readonly Move[]): CycleLoads {
  const out: CycleLoads = {
    ...{ lasts: 0, peakTorque: 0, rmsTorque: 0, peakSpeed: 0, meanSpeed: 0, peakPower: 0 },
    ...{ peakBraking: 0, brakingEnergy: 0, largestBraking: 0, moves: [] },
  };
  let [squares, turned, braking] = [0, 0, 0];
  for (const move of moves) {
    const profile = moveProfile(move);
    out.moves.push({ profile, begin: out.lasts, carries: move.carries });
    for (const piece of piecesOf(loads, profile, move.carries)) {
      const { from, to } = piece;
      const at = inPiece(loads, piece);
      const back = Math.max(0, -integral(from, to, (t) => at(t)[0] * at(t)[1]));
      squares += integral(from, to, (t) => at(t)[0] ** 2);
      turned += Math.abs(integral(from, to, (t) => at(t)[1]));
      // One braking lasts as long as power comes back.
      braking = back > 0 ? braking + back : 0;
      out.brakingEnergy += back;
      out.largestBraking = Math.max(out.largestBraking, braking);
      for (let i = 0; i <= points; i += 1) take(out, ...at(from + ((to - from) * i) / points));
    }
    const hold = holdingTorque(loads, move.carries);
    squares += hold ** 2 * move.rest;
    take(out, hold, 0);
    out.lasts += profile.lasts + move.rest;
    if (move.rest > 0) braking = 0;
  }
  if (out.lasts === 0) return out;
  return { ...out, rmsTorque: Math.sqrt(squares / out.lasts), meanSpeed: (rpm * turned) / out.lasts };
}

/** Remembers the most of a moment. */
function take(out: CycleLoads, torque: number, speed: number): void {
  out.peakTorque = Math.max(out.peakTorque, Math.abs(torque));
  out.peakSpeed = Math.max(out.peakSpeed, Math.abs(speed) * rpm);
  out.peakPower = Math.max(out.peakPower, torque * speed);
  out.peakBraking = Math.max(out.peakBraking, -torque * speed);
}

/** What a braking resistor must take, and whether the planned one does. */
export interface Braking {
  /** J that the capacitors of the bus take before the chopper begins: ½C(U_chopper² − U_bus²). */
  stored: number;
  /** J of one braking, W over the cycle, and W at most, that are left for the resistor. */
  energy: number;
  power: number;
  peak: number;
  /** Ω: more of it cannot take the peak at the voltage of the chopper; null: nothing comes back. */
  greatestResistance: number | null;
}

/** What comes back over the motor is less by its efficiency, where that is said. */
export function brakingOf(
  cycle: CycleLoads,
  { supply, motor }: Pick<DriveTrain, 'supply' | 'motor'>,
): Braking {
  const { bus, chopper, capacitance } = supply;
  const back = motor?.efficiency ?? 1;
  const stored = Math.max(0, (capacitance * 1e-6 * (chopper ** 2 - bus ** 2)) / 2);
  const largest = cycle.largestBraking * back;
  const energy = Math.max(0, largest - stored);
  const share = largest === 0 ? 0 : energy / largest;
  const peak = energy > 0 ? cycle.peakBraking * back : 0;
  return {
    ...{ stored, energy, peak },
    power: cycle.lasts === 0 ? 0 : (cycle.brakingEnergy * back * share) / cycle.lasts,
    greatestResistance: peak > 0 ? chopper ** 2 / peak : null,
  };
}

/**
 * How far an axis goes on, and how long, from when its cable is pulled: at its velocity until the device notices, then
 * with its quick stop. Units of the axis; `reactionMs`: until the loss is noticed.
 */
export function stoppingOf(
  velocity: number,
  quickStop: number,
  reactionMs: number,
): { distance: number; seconds: number } {
  const reaction = reactionMs / 1000;
  const v = Math.abs(velocity);
  return { distance: v * reaction + v ** 2 / (2 * quickStop), seconds: reaction + v / quickStop };
}
