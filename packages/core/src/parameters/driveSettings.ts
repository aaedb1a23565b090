import type { DriveTrain } from '../motion/driveTrain.js';
import type { Parameter } from '../devices/parameter.js';
import { ratio } from '../layout/ratio.js';
import type { Role } from '../layout/role.js';
import { Fraction } from 'fraction.js';
import { unitShare } from '../motion/driveUnits.js';
import { accelerationIn, speedIn } from '../motion/following.js';
import { feedOf } from '../motion/mechanics.js';
import { roledParameters } from './nameplate.js';

/** A value that follows from the train for a parameter of the drive, and why. */
export interface DriveSetting {
  parameter: Parameter;
  /** As a person would write it, in the unit of the parameter. */
  value: string;
  reason: string;
}

/** A value in units of the train, and the reason for it; a speed or an acceleration of the axis, where it is one. */
type Wanted = readonly [value: number | Fraction, reason: string, of?: 'speed' | 'acceleration'];

const shown = (value: number | Fraction): string => String(Number(value.valueOf().toPrecision(7)));

function wanted(train: DriveTrain): Partial<Record<Role, Wanted>> {
  const { motor, encoder, gear, output, reversed, modulo, moves, quickStop, followingError, follows } = train;
  const out: Partial<Record<Role, Wanted>> = {};
  const take = (role: Role, value: number | null | undefined, reason: string, of?: Wanted[2]) => {
    if (value !== null && value !== undefined) out[role] = of ? [value, reason, of] : [value, reason];
  };
  // What the device itself said needs no writing.
  if (motor && motor.from !== 'nameplate') {
    take('rated power', motor.ratedPower, 'as on the nameplate of the motor');
    take('rated speed', motor.ratedSpeed, 'as on the nameplate of the motor');
    take('rated torque', motor.ratedTorque, 'as on the nameplate of the motor');
    take('peak torque', motor.peakTorque, 'as on the nameplate of the motor');
    take('rated current', motor.ratedCurrent, 'as on the nameplate of the motor');
    take('rated voltage', motor.ratedVoltage, 'as on the nameplate of the motor');
    take('rated frequency', motor.ratedFrequency, 'as on the nameplate of the motor');
    take('rotor inertia', motor.inertia, 'as on the nameplate of the motor');
    take('poles', motor.poles, 'as on the nameplate of the motor');
    take('pole pairs', motor.poles === null ? null : motor.poles / 2, `${motor.poles ?? ''} poles`);
    if (encoder) {
      take('encoder increments', Number(encoder.increments), 'of the encoder');
      if (encoder.type === 'absolute') take('encoder turns', encoder.turns, 'of the encoder');
    }
  }
  // A gear of 7.5 : 1 is 15 : 2, as drives want it.
  const turns = ratio(gear.motor).div(ratio(gear.shaft));
  out['gear motor revolutions'] = [new Fraction(turns.n), `gear ${gear.motor} : ${gear.shaft}`];
  out['gear shaft revolutions'] = [new Fraction(turns.d), `gear ${gear.motor} : ${gear.shaft}`];
  if (output) {
    const { feed, unit } = feedOf(output);
    out['feed constant'] = [feed, `one revolution of the shaft is ${shown(feed)} ${unit}`];
  }
  // Turned round in one place alone: twice is as it was.
  const turned = reversed && follows.length === 0;
  take(
    'turning direction',
    turned ? 1 : 0,
    turned
      ? 'it counts against the motor'
      : reversed
        ? 'the scales of the fields turn it round'
        : 'it counts as the motor turns',
  );
  if (modulo) out['modulo range'] = [ratio(modulo), `it begins anew after ${modulo}`];
  if (moves.length > 0) {
    const most = Math.max(...moves.flatMap((m) => [m.acceleration, m.deceleration]));
    take(
      'largest acceleration',
      Math.max(most, quickStop ?? 0),
      'the greatest of moves and quick stop',
      'acceleration',
    );
    take('highest speed', Math.max(...moves.map((m) => m.velocity)), 'the fastest of the moves', 'speed');
  }
  take('quick stop deceleration', quickStop, 'the quick stop of the train', 'acceleration');
  take('following error limit', followingError, 'further behind its setpoint it reports a fault');
  return out;
}

/** The value in the unit of the parameter; undefined where the unit is none of its dimension. */
function inUnitOf(train: DriveTrain, { unit }: Parameter, [value, , of]: Wanted): Fraction | undefined {
  if (of) {
    const convert = of === 'speed' ? speedIn : accelerationIn;
    const converted = convert(train, unit, value.valueOf());
    return converted === undefined ? undefined : new Fraction(Number(converted.toPrecision(12)));
  }
  // Of a turning direction or the like, whose unit is none: it is written as it is.
  const share = unitShare(unit);
  return share === undefined ? undefined : new Fraction(value).div(share);
}

/** The nearest value that the parameter can hold, as it is typed. */
function typed({ scale, type }: Parameter, value: Fraction): string {
  const step = scale
    ? ratio(scale.factor)
    : type.startsWith('R') || type.startsWith('LR')
      ? null
      : new Fraction(1);
  if (!step) return shown(value);
  const steps = value.div(step).round();
  return shown(steps.mul(step));
}

/** What follows for the parameters that the drive has, in the order in which it has them. */
export function driveSettings(train: DriveTrain, parameters: readonly Parameter[]): DriveSetting[] {
  const values = wanted(train);
  const roled = roledParameters(parameters);
  return [...roled].flatMap(([role, parameter]) => {
    const wants = values[role];
    const exact = wants && parameter.access !== 'read' ? inUnitOf(train, parameter, wants) : undefined;
    if (!wants || !exact) return [];
    return [{ parameter, value: typed(parameter, exact), reason: wants[1] }];
  });
}
