import { z } from 'zod';
import { int, printable, Ratio, text } from '../entries/entries.js';
import { roleNames } from '../layout/role.js';

/**
 * What a drive or an axis turns: motor, brake, encoder, gear, coupling, what changes turning into moving, load. Sizes
 * that make units are exact numbers (Ratio); what only torque and time follow from is a number. Moments of inertia are
 * kg·cm², as on nameplates; lengths mm, angles degrees; the unit of the axis is mm, or degrees of a table.
 */

const positive = z.number().positive('is not above 0').max(1e12);
const efficiency = z.number().positive('is not above 0').max(1, 'is above 1');
const amount = z.number().min(0, 'is below 0').max(1e12);
const size = Ratio.refine((text) => !/^-|^0*(\.0*)?(\/|$)/.test(text), 'is not above 0');

export const motorTypes = ['asynchronous', 'synchronous'] as const;

/** What a nameplate says; null: not known yet. */
export const Motor = z.strictObject({
  model: printable(60).default(''),
  type: z.enum(motorTypes),
  /** W */
  ratedPower: positive.nullable().default(null),
  /** rpm */
  ratedSpeed: positive.nullable().default(null),
  /** N·m; null: follows from power and speed. */
  ratedTorque: positive.nullable().default(null),
  /** N·m, for a short time. */
  peakTorque: positive.nullable().default(null),
  /** rpm */
  maximumSpeed: positive.nullable().default(null),
  /** A, V, Hz */
  ratedCurrent: positive.nullable().default(null),
  ratedVoltage: positive.nullable().default(null),
  ratedFrequency: positive.nullable().default(null),
  /** Poles, not pairs of them. */
  poles: int(2, 200).nullable().default(null),
  /** kg·cm² */
  inertia: amount.nullable().default(null),
  /** Share of the electrical power that arrives at its shaft, and the other way round while it brakes; null: all. */
  efficiency: efficiency.nullable().default(null),
  /** From where it is known: typed; the library; or read from the device, and locked until it is uncoupled. */
  from: z.enum(['typed', 'library', 'nameplate']).default('typed'),
});
export type Motor = z.infer<typeof Motor>;

const Brake = z.strictObject({
  /** N·m that it holds. */
  torque: positive,
  /** ms until it holds, ms until it is open. */
  closes: amount,
  opens: amount,
  inertia: amount.default(0),
});

const Encoder = z.strictObject({
  type: z.enum(['incremental', 'absolute']),
  /** Of one revolution of the motor, as the drive counts them. */
  increments: size,
  /** Revolutions that an absolute one tells apart. */
  turns: int(1, 1_000_000).default(1),
  inertia: amount.default(0),
});

const Gear = z.strictObject({
  /** So many revolutions of the motor are so many of the shaft. */
  motor: size.default('1'),
  shaft: size.default('1'),
  /** Share of the torque that arrives. */
  efficiency: efficiency.default(1),
  /** At its input. */
  inertia: amount.default(0),
});

const Coupling = z.strictObject({ inertia: amount, torque: positive.nullable().default(null) });

/** What the shaft behind the gear moves. */
export const Output = z.discriminatedUnion('is', [
  z.strictObject({ is: z.literal('screw'), lead: size }),
  z.strictObject({ is: z.literal('belt'), teeth: size, pitch: size }),
  z.strictObject({ is: z.literal('rack'), teeth: size, module: size }),
  z.strictObject({ is: z.literal('pulley'), diameter: size }),
  z.strictObject({ is: z.literal('drum'), diameter: size }),
  z.strictObject({ is: z.literal('table') }),
]);
export type Output = z.infer<typeof Output>;

const Load = z.strictObject({
  /** kg that move along a line; 0 at a table. */
  mass: amount.default(0),
  /** Of all that turns with the shaft: screw, pulley, table with its load. */
  inertia: amount.default(0),
  /** Coefficient of friction of the guide. */
  friction: amount.default(0),
  /** N, or N·m at a table, against the move, whatever it carries. */
  resistance: amount.default(0),
  /** Degrees: 0 level, 90 lifts. */
  incline: z.number().min(-90).max(90).default(0),
  /** kg that balance it, lifted while it goes down. */
  counterweight: amount.default(0),
  /** Of screw, belt or rack. */
  efficiency: efficiency.default(1),
});

/** A move of the axis from rest to rest. Units of the axis, and seconds. */
export const Move = z.strictObject({
  title: printable(40).default(''),
  distance: z.number().min(-1e9).max(1e9),
  velocity: positive,
  acceleration: positive,
  deceleration: positive,
  /** Units/s³; null: at once, a trapezoid. */
  jerk: positive.nullable().default(null),
  /** s at rest afterwards. */
  rest: amount.default(0),
  /** kg more on it. */
  carries: amount.default(0),
});
export type Move = z.infer<typeof Move>;

const Supply = z.strictObject({
  /** V of the DC bus at rest, and where its brake chopper begins. */
  bus: positive.default(565),
  chopper: positive.default(760),
  /** µF */
  capacitance: amount.default(0),
  /** Ω and W of the braking resistor; null: there is none. */
  resistance: positive.nullable().default(null),
  power: positive.nullable().default(null),
});

/**
 * What the raw number of a field counts, where its scale follows the train: increments; revolutions of the motor a
 * minute; hertz of its supply; per cent of its rated speed, or so many counts for it.
 */
export const counted = [
  ...(['increments', 'increments/s', 'increments/s²'] as const),
  ...(['rpm', 'Hz', '%', 'full scale'] as const),
] as const;
/** All fields of the device that have the role take their scale from the train. */
export const Follows = z.strictObject({
  role: z.enum(roleNames),
  counts: z.enum(counted),
  /** Digits behind the point of what it counts: 250 is 2.50. */
  places: int(0, 6).default(0),
  /** Counts of the rated speed, for `full scale`: 16384 in PROFIdrive (IEC 61800-7-203; from memory). */
  full: int(1, 1_000_000_000).default(16_384),
});
export type Follows = z.infer<typeof Follows>;

export const DriveTrain = z.strictObject({
  motor: Motor.nullable().default(null),
  brake: Brake.nullable().default(null),
  encoder: Encoder.nullable().default(null),
  gear: Gear.default({ motor: '1', shaft: '1', efficiency: 1, inertia: 0 }),
  coupling: Coupling.nullable().default(null),
  output: Output.nullable().default(null),
  load: Load.default({
    ...{ mass: 0, inertia: 0, friction: 0, resistance: 0, incline: 0, counterweight: 0, efficiency: 1 },
  }),
  /** It counts against the motor. */
  reversed: z.boolean().default(false),
  /** The range after which it begins anew, in units; null: it has an end. */
  modulo: size.nullable().default(null),
  supply: Supply.default({ bus: 565, chopper: 760, capacitance: 0, resistance: null, power: null }),
  /** Units/s² of a quick stop. */
  quickStop: positive.nullable().default(null),
  /** Units that it may lie behind its setpoint before the drive reports a fault; null: not said. */
  followingError: positive.nullable().default(null),
  /** The highest speed of a person's own moves, units/s. */
  manualSpeed: positive.nullable().default(null),
  moves: z.array(Move).max(60).default([]),
  follows: z.array(Follows).max(40).default([]),
  /** Steps that a person has looked at and confirmed, by their ids. */
  confirmed: z.array(printable(20)).max(20).default([]),
  note: text,
});
export type DriveTrain = z.infer<typeof DriveTrain>;
export const emptyTrain: DriveTrain = DriveTrain.parse({});

export const blankMotor: Motor = {
  ...{ model: '', type: 'synchronous', from: 'typed', ratedPower: null, ratedSpeed: null, ratedTorque: null },
  ...{ peakTorque: null, maximumSpeed: null, ratedCurrent: null, ratedVoltage: null, ratedFrequency: null },
  ...{ poles: null, inertia: null, efficiency: null },
};

/** N·m that a motor gives at its rated speed: as its nameplate says, else P = T·ω; undefined where neither is known. */
export function ratedTorqueOf({ ratedTorque, ratedPower, ratedSpeed }: Motor): number | undefined {
  if (ratedTorque !== null) return ratedTorque;
  if (ratedPower === null || ratedSpeed === null) return undefined;
  return (ratedPower * 60) / (2 * Math.PI * ratedSpeed);
}
