import { Fraction } from 'fraction.js';
import type { DriveTrain, Follows, Motor } from './driveTrain.js';
import type { Field } from '../layout/field.js';
import type { Image } from '../layout/image.js';
import { factsOfRole, type Role } from '../layout/role.js';
import { ratio } from '../layout/ratio.js';
import { ratedShare } from './driveUnits.js';
import { axisUnit, ratioText, rpmAt, unitScaling, type UnitScaling } from './mechanics.js';

/** Fields whose scale is what the mechanics make of what they count, and changes when the mechanics do. */

/** The scaling of a train; undefined while its output is not said, and 1 increment where it has no encoder. */
export function scalingOf({ output, encoder, gear, reversed }: DriveTrain): UnitScaling | undefined {
  if (!output) return undefined;
  return unitScaling({ increments: encoder?.increments ?? '1', gear, output, reversed });
}

/** The scale of a field that follows; undefined where the train does not say enough. */
export function followedScale(
  train: DriveTrain,
  follows: Follows,
): { factor: string; unit: string } | undefined {
  const scaling = scalingOf(train);
  const one = scaling && countOf(train, scaling, follows);
  if (!one) return undefined;
  const unit = { increments: '', 'increments/s²': '/s²' }[follows.counts as string] ?? '/s';
  return { factor: ratioText(one.div(ratio(String(10 ** follows.places)))), unit: scaling.unit + unit };
}

const speedCounts: Readonly<Record<string, Follows['counts']>> = {
  ...{ hz: 'Hz', rpm: 'rpm', '1/min': 'rpm', 'r/min': 'rpm', 'min-1': 'rpm', '%': '%' },
};

/** A speed of the axis, units/s, in the unit of a field: mm/s, m/s, °/s, rpm, Hz, %; undefined where unsaid. */
export function speedIn(train: DriveTrain, unit: string, speed: number): number | undefined {
  const [length] = unit.trim().split('/');
  const share = ratedShare(unit);
  const turns = /^(°|deg|rev)$/i.test(length ?? '');
  if (share !== undefined && train.output && turns === (axisUnit(train.output) === '°')) return speed / share;
  const counts = speedCounts[unit.trim().toLowerCase()];
  const scale = counts && followedScale(train, { role: 'velocity', counts, places: 0, full: 1 });
  return scale && new Fraction(speed).div(ratio(scale.factor).abs()).valueOf();
}

/** The same for an acceleration, units/s²: mm/s², m/s², °/s², Hz/s, rpm/s. */
export function accelerationIn(train: DriveTrain, unit: string, acceleration: number): number | undefined {
  const [, squared] = /^(.+)\/s(?:²|\^?2)$/.exec(unit.trim()) ?? [];
  const [, turning] = /^(hz|rpm|1\/min|%)\/s$/i.exec(unit.trim()) ?? [];
  const speed = squared === undefined ? turning : `${squared}/s`;
  return speed === undefined ? undefined : speedIn(train, speed, acceleration);
}

/** What one count is in units of the axis, or units/s; undefined where the train does not say enough. */
function countOf(train: DriveTrain, scaling: UnitScaling, { counts, full }: Follows): Fraction | undefined {
  const { motor, encoder } = train;
  const rated = motor?.ratedSpeed == null ? undefined : new Fraction(motor.ratedSpeed);
  switch (counts) {
    case 'rpm':
      return scaling.perRpm;
    case 'Hz': {
      if (!motor?.poles) return undefined;
      return scaling.perRpm.mul(rpmAt(new Fraction(1), motor.poles, slipOf(motor)));
    }
    case '%':
      return rated && scaling.perRpm.mul(rated).div(100);
    case 'full scale':
      return rated && scaling.perRpm.mul(rated).div(full);
    default:
      return encoder ? scaling.perIncrement : undefined;
  }
}

/** What an asynchronous motor loses of its synchronous speed at rated load, as a share; 0 where that is not said. */
export function slipOf({ type, ratedSpeed, ratedFrequency, poles }: Motor): Fraction {
  const none = new Fraction(0);
  if (type !== 'asynchronous' || ratedSpeed === null || ratedFrequency === null || poles === null)
    return none;
  const synchronous = rpmAt(new Fraction(ratedFrequency), poles);
  const slip = new Fraction(1).sub(new Fraction(ratedSpeed).div(synchronous));
  return slip.s > 0n ? slip : none;
}

/** Roles whose fields may follow, and what they usually count. */
export const followingRoles: Readonly<Partial<Record<Role, Follows['counts']>>> = {
  'position setpoint': 'increments',
  'position actual': 'increments',
  'position lag': 'increments',
  velocity: 'increments/s',
  'speed reference': 'rpm',
  'speed actual': 'increments/s',
  acceleration: 'increments/s²',
  deceleration: 'increments/s²',
};

/** What the raw number of a field with a role may count: positions increments, speeds whatever turns. */
export function countsOf(role: Role): Follows['counts'][] {
  const usual = followingRoles[role];
  const others = ['rpm', 'Hz', '%', 'full scale'] as const;
  if (!usual) return [];
  return usual === 'increments' || usual === 'increments/s²' ? [usual] : ['increments/s', ...others];
}

const followed = (field: Field, train: DriveTrain): Field => {
  const follows = field.role && train.follows.find(({ role }) => role === field.role!.is);
  const scale = follows && followedScale(train, follows);
  if (!scale || factsOfRole(field.role!.is).reads !== 'number') return field;
  if (field.scale?.factor === scale.factor && field.scale.offset === '0' && field.unit === scale.unit)
    return field;
  return { ...field, scale: { factor: scale.factor, offset: '0' }, unit: scale.unit };
};

/** As much of a device as has fields. */
interface Trained {
  train: DriveTrain | null;
  links: readonly { command: Image; feedback: Image }[];
}

/** The device with the scales that follow from its train; the same value where nothing changes. */
export function withFollowedScales<D extends Trained>(device: D): D {
  const { train } = device;
  if (!train || train.follows.length === 0) return device;
  const image = <I extends Image>(one: I): I => {
    const fields = one.fields.map((field) => followed(field, train));
    return fields.every((field, i) => field === one.fields[i]) ? one : { ...one, fields };
  };
  const links = device.links.map((link) => {
    const [command, feedback] = [image(link.command), image(link.feedback)];
    return command === link.command && feedback === link.feedback ? link : { ...link, command, feedback };
  });
  return links.every((link, i) => link === device.links[i]) ? device : { ...device, links };
}

/** Fields with a role that follows, but with another scale: somebody changed it by hand. */
export const strayed = (device: Trained): Field[] => {
  const kept = withFollowedScales(device);
  return device.links.flatMap((link, i) =>
    (['command', 'feedback'] as const).flatMap((side) =>
      link[side].fields.filter((field, n) => field !== kept.links[i]![side].fields[n]),
    ),
  );
};
