import type { DriveTrain } from './driveTrain.js';
import { scalingOf } from './following.js';
import { brakingOf, fallOf, stoppingOf } from './loads.js';
import { ratioText } from './mechanics.js';
import { controlModeOf, type TrainFigures } from './startUp.js';

/** A figure of a drive train as a person reads it: what it is, the figure, and what is to be said beside it. */
export interface TrainRow {
  title: string;
  value: string;
  more?: string | undefined;
}

/** A figure with four digits and its unit. */
export const figureText = (value: number, unit = ''): string =>
  `${Number(value.toPrecision(4))}${unit ? ` ${unit}` : ''}`;

const share = (is: number, may: number | null | undefined): string | undefined =>
  may ? `${Math.round((100 * is) / may)} % of ${figureText(may)}` : undefined;

/**
 * What follows from a train: control mode, units, inertia, torque, braking, stopping. `noticedMs`: until its link says
 * that it is lost.
 */
export function trainRows(
  train: DriveTrain,
  figures: TrainFigures | undefined,
  noticedMs: number | undefined,
): TrainRow[] {
  const rows: TrainRow[] = [];
  const add = (title: string, value: string, more?: string) => rows.push({ title, value, more });
  const mode = controlModeOf(train);
  if (mode) add('control', mode.title, mode.reason);
  const scaling = scalingOf(train);
  if (scaling) {
    const { unit, perIncrement, perRevolution, range } = scaling;
    if (train.encoder) add('an increment', figureText(perIncrement.valueOf(), unit), ratioText(perIncrement));
    add('a revolution of the motor', figureText(perRevolution.valueOf(), unit), ratioText(perRevolution));
    if (train.encoder) add('32 bits reach', `± ${figureText(range.greatest.valueOf(), unit)}`);
  }
  if (!figures) return rows;
  const { loads, cycle, ratio, ratedTorque } = figures;
  const inertia = (loads.motorInertia + loads.shaftInertia + loads.massInertia) * 1e4;
  add('moment of inertia at the motor', figureText(inertia, 'kg·cm²'));
  add('load to motor', `${figureText(ratio)} : 1`);
  const unit = scaling?.unit;
  if (train.brake) {
    const falls = fallOf(loads, train.brake.closes / 1000, Math.max(0, ...train.moves.map((m) => m.carries)));
    if (falls > 0) add('falls until the brake holds', figureText(falls, unit), `in ${train.brake.closes} ms`);
  }
  if (train.moves.length === 0) return rows;
  add('cycle', figureText(cycle.lasts, 's'));
  add(
    'torque, at most',
    figureText(cycle.peakTorque, 'N·m'),
    share(cycle.peakTorque, train.motor?.peakTorque),
  );
  add('torque, rms', figureText(cycle.rmsTorque, 'N·m'), share(cycle.rmsTorque, ratedTorque));
  add(
    'speed, at most',
    figureText(cycle.peakSpeed, 'rpm'),
    share(cycle.peakSpeed, train.motor?.maximumSpeed),
  );
  add('power, at most', figureText(cycle.peakPower, 'W'));
  add('comes back in a cycle', figureText(cycle.brakingEnergy, 'J'));
  const braking = brakingOf(cycle, train);
  if (braking.energy > 0)
    add(
      'braking resistor',
      `${figureText(braking.greatestResistance ?? 0, 'Ω')} at most, ${figureText(braking.power, 'W')}`,
      `${figureText(braking.peak, 'W')} peak`,
    );
  const fastest = Math.max(...train.moves.map((m) => m.velocity));
  if (noticedMs !== undefined && train.quickStop) {
    const { distance, seconds } = stoppingOf(fastest, train.quickStop, noticedMs);
    add(
      'cable pulled at the fastest move',
      `${figureText(distance, unit)} in ${figureText(seconds, 's')}`,
      `noticed after ${figureText(noticedMs, 'ms')}`,
    );
  }
  return rows;
}
