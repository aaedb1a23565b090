import { ratedTorqueOf, type DriveTrain } from './driveTrain.js';
import type { Field } from '../layout/field.js';
import { ratioNumber } from '../layout/ratio.js';
import type { Role } from '../layout/role.js';
import { unitShare } from './driveUnits.js';
import { scalingOf } from './following.js';
import {
  brakingOf,
  cycleOf,
  fallOf,
  holdingTorque,
  inertiaRatio,
  loadsOf,
  type CycleLoads,
  type Loads,
} from './loads.js';
import { moduloIncrements } from './mechanics.js';

/** The start-up of a drive train step by step, what follows from it, and what is wrong with it. */

export const startUpSteps = [
  { id: 'motor', title: 'Motor' },
  { id: 'brake', title: 'Brake' },
  { id: 'encoder', title: 'Encoder' },
  { id: 'gear', title: 'Gear' },
  { id: 'coupling', title: 'Coupling' },
  { id: 'output', title: 'What it moves' },
  { id: 'load', title: 'Load' },
  { id: 'moves', title: 'Moves' },
] as const;
export type StartUpStep = (typeof startUpSteps)[number]['id'];

/** What a step still asks for, in the words of the form. */
export function askedFor(train: DriveTrain, step: StartUpStep): string[] {
  const { motor, output, moves, load } = train;
  if (step === 'motor') {
    if (!motor) return ['the nameplate of the motor'];
    return [
      ...(ratedTorqueOf(motor) === undefined ? ['rated torque, or power and speed'] : []),
      ...(motor.ratedSpeed === null ? ['rated speed'] : []),
      ...(motor.inertia === null ? ['moment of inertia'] : []),
      ...(motor.type === 'asynchronous' && motor.poles === null ? ['poles'] : []),
    ];
  }
  if (step === 'output') return output ? [] : ['what the shaft moves'];
  if (step === 'load') return load.mass > 0 || load.inertia > 0 ? [] : ['mass, or moment of inertia'];
  if (step === 'moves') return moves.length > 0 ? [] : ['a move'];
  return [];
}

/** How a drive can control its motor, as far as motor and encoder say; common practice, no source. */
export interface ControlMode {
  title: string;
  /** It can go to positions. */
  positions: boolean;
  reason: string;
}
export function controlModeOf({ motor, encoder }: DriveTrain): ControlMode | undefined {
  if (!motor) return undefined;
  const feedback = encoder ? 'an encoder' : 'no encoder';
  const reason = `${motor.type === 'synchronous' ? 'a synchronous' : 'an asynchronous'} motor with ${feedback}`;
  if (encoder) return { title: 'field-oriented, closed loop', positions: true, reason };
  return motor.type === 'asynchronous'
    ? { title: 'voltage by frequency, or vector without encoder', positions: false, reason }
    : { title: 'field-oriented without encoder', positions: false, reason };
}

export type TrainWarning =
  | 'inertia ratio'
  | 'rms torque'
  | 'peak torque'
  | 'speed'
  | 'field weakening'
  | 'coupling'
  | 'brake'
  | 'brake missing'
  | 'resistor missing'
  | 'resistor resistance'
  | 'resistor power'
  | 'encoder overflow'
  | 'modulo drifts'
  | 'units lose resolution';

/** A thing that is wrong with a train: which, and the figures: what it is, and what it may be. */
export interface TrainFlaw {
  id: TrainWarning;
  is: number;
  may: number;
}

/** Common practice for a stiff servo axis, no source. */
const greatestRatio = 10;

/** What the moves of a train come to, and what is wrong; undefined while too little is known. */
export interface TrainFigures {
  loads: Loads;
  cycle: CycleLoads;
  ratio: number;
  ratedTorque: number | undefined;
  flaws: TrainFlaw[];
}

/** `fields`: those of the device, to see whether their units are as fine as the encoder. */
export function figuresOf(train: DriveTrain, fields: readonly Field[] = []): TrainFigures | undefined {
  const loads = loadsOf(train);
  if (!loads) return undefined;
  const cycle = cycleOf(loads, train.moves);
  const ratedTorque = ratedTorqueOf(train.motor!);
  return {
    ...{ loads, cycle, ratio: inertiaRatio(loads), ratedTorque },
    flaws: [...flawsOf(train, loads, cycle, ratedTorque), ...unitFlaws(train, fields)],
  };
}

function flawsOf(train: DriveTrain, loads: Loads, cycle: CycleLoads, rated: number | undefined): TrainFlaw[] {
  const flaws: TrainFlaw[] = [];
  const above = (id: TrainWarning, is: number, may: number | null | undefined) => {
    if (may !== null && may !== undefined && is > may * (1 + 1e-9)) flaws.push({ id, is, may });
  };
  const { motor, coupling, brake, supply } = train;
  const held = Math.max(0, ...[0, ...train.moves.map((m) => m.carries)].map((kg) => heldTorque(loads, kg)));
  above('inertia ratio', inertiaRatio(loads), greatestRatio);
  above('rms torque', cycle.rmsTorque, rated);
  above('peak torque', cycle.peakTorque, motor!.peakTorque);
  above('speed', cycle.peakSpeed, motor!.maximumSpeed);
  above('coupling', cycle.peakTorque, coupling?.torque);
  if (brake) above('brake', held, brake.torque);
  else if (fallOf(loads, 1) > 0) flaws.push({ id: 'brake missing', is: held, may: 0 });
  const weakening = weakeningOf(train, cycle, rated);
  if (weakening) flaws.push(weakening);
  const braking = brakingOf(cycle, train);
  if (braking.energy > 0 && supply.resistance === null)
    flaws.push({ id: 'resistor missing', is: braking.energy, may: 0 });
  else {
    if (supply.resistance !== null)
      above('resistor resistance', supply.resistance, braking.greatestResistance);
    above('resistor power', braking.power, supply.power);
  }
  return flaws;
}

/** N·m at the motor's shaft that its brake must hold. */
const heldTorque = (loads: Loads, carries: number): number => Math.abs(holdingTorque(loads, carries));

/** Above its rated speed a motor has its rated power, no more: torque falls as speed rises. */
function weakeningOf(train: DriveTrain, cycle: CycleLoads, rated: number | undefined): TrainFlaw | undefined {
  const { ratedSpeed } = train.motor!;
  if (ratedSpeed === null || rated === undefined || cycle.peakSpeed <= ratedSpeed * (1 + 1e-9))
    return undefined;
  return { id: 'field weakening', is: cycle.peakSpeed, may: ratedSpeed };
}

const positions = new Set<Role>(['position setpoint', 'position actual']);

/** What is wrong with units: counters that overflow, turns that drift, fields coarser than the encoder. */
function unitFlaws(train: DriveTrain, fields: readonly Field[]): TrainFlaw[] {
  const scaling = train.encoder && scalingOf(train);
  if (!scaling || !train.encoder) return [];
  const flaws: TrainFlaw[] = [];
  const way = travelOf(train);
  const greatest = scaling.range.greatest.valueOf();
  if (way > greatest) flaws.push({ id: 'encoder overflow', is: way, may: greatest });
  if (train.encoder.type === 'absolute' && train.modulo === null) {
    const told = scaling.perRevolution.abs().mul(train.encoder.turns).valueOf();
    if (way > told) flaws.push({ id: 'encoder overflow', is: way, may: told });
  }
  if (train.modulo !== null) {
    const increments = moduloIncrements(train.modulo, scaling);
    if (increments.d !== 1n) flaws.push({ id: 'modulo drifts', is: increments.valueOf(), may: 0 });
  }
  const finest = Math.abs(scaling.perIncrement.valueOf());
  const steps = fields.flatMap((field) => {
    const share = unitShare(field.unit);
    if (!field.role || !positions.has(field.role.is) || share === undefined) return [];
    return [Math.abs(field.scale ? ratioNumber(field.scale.factor) : 1) * share];
  });
  const coarsest = Math.max(0, ...steps);
  // A step of ten increments and more is seen by a positioning axis; common practice, no source.
  if (coarsest > finest * 10) flaws.push({ id: 'units lose resolution', is: coarsest, may: finest });
  return flaws;
}

/** Units between the ends of all moves of a train, one after the other. */
export function travelOf({ moves }: DriveTrain): number {
  let [at, low, high] = [0, 0, 0];
  for (const { distance } of moves) {
    at += distance;
    [low, high] = [Math.min(low, at), Math.max(high, at)];
  }
  return high - low;
}

/** Torque of a motor at a speed, N·m: what it gives all the time, and for a short while; rpm. */
export function torqueLimits(train: DriveTrain): { rpm: number; rated: number; peak: number }[] {
  const { motor } = train;
  const rated = motor ? ratedTorqueOf(motor) : undefined;
  if (!motor || rated === undefined || motor.ratedSpeed === null) return [];
  const { ratedSpeed } = motor;
  const highest = motor.maximumSpeed ?? ratedSpeed * 1.5;
  const peak = motor.peakTorque ?? rated;
  // Rated power above rated speed, and the peak along the same curve.
  const at = (rpm: number) => {
    const share = rpm <= ratedSpeed ? 1 : ratedSpeed / rpm;
    return { rpm, rated: rated * share, peak: peak * share };
  };
  const steps = 24;
  const above = Array.from(
    { length: steps },
    (_, i) => ratedSpeed + ((highest - ratedSpeed) * (i + 1)) / steps,
  );
  return [at(0), at(ratedSpeed), ...(highest > ratedSpeed ? above.map(at) : [])];
}
