import type { Device } from '../cell/model.js';
import type { Condition, Exchange, Order, Place } from '../cell/exchange.js';
import { ratioNumber } from '../layout/ratio.js';
import type { Role } from '../layout/role.js';
import { ratedTorqueOf, type Motor } from '../motion/driveTrain.js';
import { unitShare } from '../motion/driveUnits.js';
import { speedIn } from '../motion/following.js';
import { signalsOf } from '../layout/signals.js';
import { Builder } from './builder.js';
import { rangeIn } from './images.js';
import { enabling, homeSteps, positioning, setpointSteps, setpointVariables } from './readyMade/axes.js';
import { number, released, startBit, startMs } from './readyMade/recipe.js';
import { updateMs } from './run.js';

/**
 * How a person moves a device by hand, worked out from its roles: what brings it to where it follows, what moves it one
 * way or the other as long as somebody holds, what takes it to rest. Nothing of it is kept in the cell.
 */
export interface ManualWay {
  way: 'velocity' | 'speed reference' | 'setpoints';
  title: string;
  /** Of its speed; and the highest that a person may take. */
  unit: string;
  limit: number;
  /** It follows already where all of these hold; else this brings it there. */
  ready: Condition[];
  prepare: Exchange;
  /** Given as long as somebody holds; the sign of the speed is the way. */
  run(speed: number): Order[];
  /** Given when it is let go: what takes it to rest at once. */
  stop: Order[];
  /** Where it is; null where it does not show that. */
  position: Place | null;
}

/** Modes of operation of CiA 402 (IEC 61800-7-201; from memory). */
const velocityMode = 3;

/** Highest speeds of a person's own moves where nothing is said; common practice (250 mm/s), no source. */
const usualLimits: Readonly<Record<string, number>> = {
  ...{ 'mm/s': 250, 'm/s': 0.25, '°/s': 30, 'deg/s': 30, hz: 10, rpm: 300, '1/min': 300, '%': 20 },
};

const exchangeOf = (b: Builder, title: string, variables: Exchange['variables'] = []): Exchange => ({
  ...{ id: `manual_${b.device.id}`.slice(0, 40), name: `${b.device.name} ${title}`, note: '' },
  ...{ preconditions: [], variables, steps: b.steps },
});

/** Ids for exchanges that are never stored. */
function counter(): () => string {
  let count = 0;
  return () => `s${(count += 1)}`;
}

/** The command signal with a role, and the least and the greatest value that it holds. */
function signalOf(device: Device, role: Role) {
  const signal = device.links.flatMap((link) => signalsOf(link.command)).find((one) => one.role?.is === role);
  return signal && { signal, range: rangeIn(signal) };
}
const unitOf = (device: Device, role: 'velocity' | 'speed reference'): string =>
  signalOf(device, role)?.signal.unit.trim() ?? '';

const limitOf = (device: Device, unit: string): number => {
  const usual = usualLimits[unit.toLowerCase()] ?? 10;
  const { train } = device;
  const said = train?.manualSpeed ? speedIn(train, unit, train.manualSpeed) : undefined;
  return said ?? usual;
};

/** What brings an axis to rest at once: the gentlest that it has. */
function restOf(b: Builder): Order[] {
  const role = b.firstCommand('hold', 'stop', 'quick stop');
  return role ? b.orders({ [role]: true }) : b.orders({ enable: false });
}

const positionOf = (b: Builder): Place | null =>
  b.shows('position actual') ? b.feedback('position actual') : null;

/** The roles that are missing, where it cannot be moved by hand. */
export const manualNeeds = 'speed reference with start, or position setpoint with setpoint strobe';

const plain = { is: 'equals', upTo: null, stable: 0 } as const;
/** What must stand in the command image, of what the device has. */
const stands = (b: Builder, values: Parameters<Builder['orders']>[0]): Condition[] =>
  b.orders(values).map(({ place, to }) => ({ ...plain, place, to }));

/** Undefined for a device that has nothing to be moved by. */
export function manualWayOf(device: Device): ManualWay | undefined {
  const b = new Builder(device, counter());
  const signed = (signalOf(device, 'velocity')?.range.least ?? 0) < 0;
  if (signed && b.commands('operating mode', 'enable')) return byVelocity(b);
  if (b.commands('speed reference') && startBit(b)) return bySpeed(b);
  if (b.commands('position setpoint', 'setpoint strobe')) return bySetpoints(b);
  return undefined;
}

/** What else could move it, or change what a setpoint means: at rest, also where a bit rests at 1. */
const others = { home: false, jog: false, 'relative setpoint': false, 'fault reset': false } as const;

/** Profile velocity: the axis follows a velocity with a sign; 0 is rest. */
function byVelocity(b: Builder): ManualWay {
  const unit = unitOf(b.device, 'velocity');
  b.step('choose velocity', {
    orders: b.orders({
      enable: false,
      velocity: 0,
      'operating mode': velocityMode,
      'setpoint strobe': false,
    }),
    updates: 2,
  });
  enabling(b);
  return {
    ...{ way: 'velocity', title: 'profile velocity', unit, limit: limitOf(b.device, unit) },
    ready: [
      ...b.waits({ enabled: true, 'mode shown': velocityMode }),
      ...stands(b, { 'operating mode': velocityMode }),
    ],
    prepare: exchangeOf(b, 'ready to be moved'),
    run: (speed) => b.orders({ velocity: speed }),
    stop: b.orders({ velocity: 0 }),
    position: positionOf(b),
  };
}

/** A drive: start one way or the other, with a speed. */
function bySpeed(b: Builder): ManualWay {
  const unit = unitOf(b.device, 'speed reference');
  const both = b.commands('forward', 'reverse');
  b.step('give it to the network', {
    orders: [
      ...released(b),
      ...b.orders({ start: false, forward: false, reverse: false, 'speed reference': 0 }),
    ],
    updates: 2,
  });
  return {
    ...{ way: 'speed reference', title: 'speed reference', unit, limit: limitOf(b.device, unit) },
    ready: released(b).map((order) => ({ ...plain, place: order.place, to: order.to })),
    prepare: exchangeOf(b, 'ready to be moved'),
    run: (speed) => [
      ...b.orders({ 'speed reference': b.commands('direction') || both ? Math.abs(speed) : speed }),
      ...(both
        ? b.orders({ forward: speed > 0, reverse: speed < 0 })
        : b.orders({ direction: speed < 0, start: true, forward: true })),
    ],
    stop: b.orders({ start: false, forward: false, reverse: false, 'speed reference': 0 }),
    position: positionOf(b),
  };
}

/** A setpoint far away, and a halt when it is let go. */
function bySetpoints(b: Builder): ManualWay {
  const unit = unitOf(b.device, 'velocity');
  // Where it can be homed, a setpoint is ignored before.
  const homed = manualHome(b.device) ? b.waits({ homed: true }) : [];
  // What was held goes on to where it went when it is let go: its enable is taken first, and with it its target.
  b.step('take the target back', {
    orders: b.orders({
      ...{ enable: false, 'switch on': false, 'enable voltage': false, 'setpoint strobe': false },
      ...others,
      'operating mode': positioning,
    }),
    conditions: b.waits({ enabled: false }),
    ...{ updates: 2, limit: startMs, reason: `${b.device.name} stays enabled.` },
  });
  enabling(b);
  const far = farEnds(b.device);
  return {
    ...{ way: 'setpoints', title: 'setpoints', unit, limit: limitOf(b.device, unit) },
    ready: [
      ...b.waits({ enabled: true, 'mode shown': positioning }),
      ...stands(b, { 'operating mode': positioning, hold: false, stop: false, 'quick stop': false }),
    ],
    prepare: {
      ...exchangeOf(b, 'ready to be moved'),
      preconditions: homed.map((condition) => ({
        condition,
        reason: `${b.device.name} is not homed: home it first, its setpoints are ignored.`,
      })),
    },
    run: (speed) => [
      ...b.orders({ hold: false, stop: false, 'quick stop': false }),
      ...b.orders({ 'position setpoint': speed < 0 ? far.low : far.high, velocity: Math.abs(speed) }),
      ...b.orders({ 'setpoint strobe': true }),
    ],
    stop: [...b.orders({ 'setpoint strobe': false }), ...restOf(b)],
    position: positionOf(b),
  };
}

/** The ends of a setpoint's range: its limits, as far as its field holds them. */
function farEnds(device: Device): { low: number; high: number } {
  const found = signalOf(device, 'position setpoint');
  if (!found) return { low: 0, high: 0 };
  const { least, greatest } = found.range;
  const { minimum, maximum } = found.signal.limits ?? {};
  return {
    low: Math.max(minimum ? ratioNumber(minimum) : -furthest, least),
    high: Math.min(maximum ? ratioNumber(maximum) : furthest, greatest),
  };
}
/** Where nothing ends it, in its unit. */
const furthest = 10_000;

/** Goes to a position: enabled, its setpoint taken over; variables `position` and `velocity`. */
export function manualMove(device: Device): Exchange | undefined {
  const b = new Builder(device, counter());
  if (!b.commands('position setpoint', 'setpoint strobe')) return undefined;
  b.step('choose positioning', {
    orders: b.orders({ enable: false, 'operating mode': positioning, ...others }),
    updates: b.commands('operating mode') ? 2 : 0,
  });
  enabling(b);
  setpointSteps(b, true);
  return exchangeOf(b, 'go to', [...setpointVariables(b), { ...number('reached', 0), result: true }]);
}

/** Homes; undefined for what has nothing to be homed by. */
export function manualHome(device: Device): Exchange | undefined {
  const b = new Builder(device, counter());
  const can = b.shows('homed') && (b.commands('home') || b.commands('operating mode', 'setpoint strobe'));
  if (!can) return undefined;
  homeSteps(b);
  return exchangeOf(b, 'home', setpointVariables(b));
}

/** What a person sees while it is moved, and between what it may be; null where nothing says so. */
export interface ManualValue {
  title: Role;
  place: Place;
  range: { low: number; high: number } | null;
}

/** Those that the device shows. */
export function manualValues(device: Device): ManualValue[] {
  const b = new Builder(device, counter());
  const roles = [
    ...(['position actual', 'speed actual', 'position lag', 'torque actual', 'motor current'] as const),
    ...(['enabled', 'homed', 'running', 'faulted', 'limit active', 'limit positive'] as const),
    ...(['limit negative', 'fault code'] as const),
  ];
  return roles
    .filter((role) => b.shows(role))
    .map((role) => ({ title: role, place: b.feedback(role), range: rangeOf(device, role) }));
}

/** Between what a value may be while it is moved: by the fields, and by the drive train. */
function rangeOf(device: Device, role: Role): ManualValue['range'] {
  const shown = device.links.flatMap(({ feedback }) => signalsOf(feedback)).find((s) => s.role?.is === role);
  const unit = shown?.unit.trim() ?? '';
  const { train } = device;
  const around = (most: number | null | undefined) =>
    most === null || most === undefined ? null : { low: -most, high: most };
  switch (role) {
    case 'position actual': {
      const limits = signalOf(device, 'position setpoint')?.signal.limits;
      return limits?.minimum && limits.maximum
        ? { low: ratioNumber(limits.minimum), high: ratioNumber(limits.maximum) }
        : null;
    }
    case 'speed actual':
      return around(train?.manualSpeed ? speedIn(train, unit, train.manualSpeed) : undefined);
    case 'position lag': {
      const share = unitShare(unit);
      return around(train?.followingError && share ? train.followingError / share : undefined);
    }
    case 'torque actual':
      return around(train?.motor ? peakIn(train.motor, unit) : undefined);
    case 'motor current': {
      const share = unitShare(unit);
      return around(train?.motor?.ratedCurrent && share ? train.motor.ratedCurrent / share : undefined);
    }
    default:
      return null;
  }
}

/** The peak torque of a motor, else its rated one, in per cent of the rated one or in a unit of torque. */
function peakIn(motor: Motor, unit: string): number | undefined {
  const rated = ratedTorqueOf(motor);
  const peak = motor.peakTorque ?? rated;
  const share = unitShare(unit);
  if (peak === undefined || rated === undefined) return undefined;
  if (unit === '%') return (100 * peak) / rated;
  return share === undefined || unit === '' ? undefined : peak / share;
}

/** ms from when it is let go until the device has heard of it, at most: two updates. */
export const letGoLimitMs = ({ links: [link] }: Device): number => (link ? 2 * updateMs(link) : 0);
