import { blankMotor, type DriveTrain, type Motor } from '../motion/driveTrain.js';
import type { Parameter } from '../devices/parameter.js';
import type { Role } from '../layout/role.js';
import { withProposedRoles } from '../roles/parameterRoles.js';
import { unitShare } from '../motion/driveUnits.js';

/**
 * The nameplate of a motor and its encoder as a drive keeps it in its parameters: which of them are asked for, and what
 * was read makes of the train.
 */

type MotorPart = Exclude<keyof Motor, 'model' | 'type' | 'from'>;
const motorParts: Readonly<Partial<Record<Role, MotorPart>>> = {
  'rated power': 'ratedPower',
  'rated speed': 'ratedSpeed',
  'rated torque': 'ratedTorque',
  'peak torque': 'peakTorque',
  'rated current': 'ratedCurrent',
  'rated voltage': 'ratedVoltage',
  'rated frequency': 'ratedFrequency',
  'rotor inertia': 'inertia',
};

/** Parameters with the role that each has, or that its name says. */
export function roledParameters(parameters: readonly Parameter[]): Map<Role, Parameter> {
  const proposed = withProposedRoles(parameters);
  const found = new Map<Role, Parameter>();
  for (const parameter of [...parameters, ...proposed])
    if (parameter.role && !found.has(parameter.role.is)) found.set(parameter.role.is, parameter);
  return found;
}

const nameplateRoles: readonly Role[] = [
  ...(Object.keys(motorParts) as Role[]),
  ...(['poles', 'pole pairs', 'encoder increments', 'encoder turns'] as const),
];

/** The parameters to read for a nameplate; none where the device has none. */
export const nameplateParameters = (parameters: readonly Parameter[]): Parameter[] => {
  const roled = roledParameters(parameters);
  return nameplateRoles.flatMap((role) => roled.get(role) ?? []);
};

/** A number without the digits that binary fractions add. */
const tidy = (value: number): number => Number(value.toPrecision(10));

/**
 * The train with what was read of the nameplate: `read` gives the engineering value of a parameter by its id. What
 * comes from it is locked (`from: nameplate`); what the device does not say stays open.
 */
export function withNameplate(
  train: DriveTrain,
  parameters: readonly Parameter[],
  read: (id: string) => number | undefined,
): DriveTrain {
  const roled = roledParameters(parameters);
  const value = (role: Role): number | undefined => {
    const parameter = roled.get(role);
    const number = parameter && read(parameter.id);
    const share = parameter && unitShare(parameter.unit);
    return number === undefined || share === undefined || !(number > 0) ? undefined : tidy(number * share);
  };
  const said = Object.entries(motorParts).flatMap(([role, part]) => {
    const number = value(role as Role);
    return number === undefined ? [] : [[part, number] as const];
  });
  const pairs = value('pole pairs');
  const poles = value('poles') ?? (pairs === undefined ? undefined : pairs * 2);
  const increments = value('encoder increments');
  const turns = value('encoder turns');
  const motor: Motor = {
    ...(train.motor ?? blankMotor),
    ...Object.fromEntries(said),
    ...(poles === undefined ? {} : { poles: Math.round(poles) }),
    // A motor with a frequency on its nameplate runs at a mains; one without is fed by its drive alone.
    type: value('rated frequency') === undefined ? 'synchronous' : 'asynchronous',
    from: 'nameplate',
  };
  const encoder =
    increments === undefined
      ? train.encoder
      : {
          ...(train.encoder ?? { type: 'absolute' as const, inertia: 0, turns: 1 }),
          increments: String(Math.round(increments)),
          ...(turns === undefined ? {} : { turns: Math.round(turns), type: 'absolute' as const }),
        };
  return { ...train, motor, encoder };
}
