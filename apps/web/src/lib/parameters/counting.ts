import {
  writePlan,
  type ComparedParameter,
  type Device,
  type Edit,
  type Parameter,
  type ReadValues,
  type WriteStep,
} from '@fadenkreuz/core';

/** Which side of a difference counts. */
export type Counts = 'planned' | 'device' | 'other';

/** Values that are to go to the device, as hex pairs by parameter. */
export const toDevice = (
  rows: readonly ComparedParameter[],
  counts: ReadonlyMap<string, Counts>,
): Map<string, string> =>
  new Map(
    rows.flatMap(({ parameter, values }): [string, string][] => {
      const side = counts.get(parameter.id);
      if (side !== 'planned' && side !== 'other') return [];
      const value = values[side];
      return value && 'hex' in value && parameter.access !== 'read' ? [[parameter.id, value.hex]] : [];
    }),
  );

/** The writes for them, keys included. */
export const stepsFor = (device: Device, values: ReadValues, read: ReadValues): WriteStep[] =>
  writePlan(device.description.parameters, values, read);

type Arrange = Extract<Edit, { edit: 'parameters.arrange' }>;

/** The edit that takes values of the device into the plan; undefined where none is chosen. */
export function intoPlan(
  device: Device,
  rows: readonly ComparedParameter[],
  counts: ReadonlyMap<string, Counts>,
): Arrange | undefined {
  const parameters = rows.flatMap(({ parameter, values }): Parameter[] => {
    const value = counts.get(parameter.id) === 'device' ? values.device : undefined;
    return value && 'value' in value ? [{ ...parameter, planned: plannedText(value.value) }] : [];
  });
  return arranged(device, `take ${parameters.length} values from the device into the plan`, parameters);
}

/** The edit that plans everything as it stands in the device. */
export function planAsRead(device: Device, rows: readonly ComparedParameter[]): Arrange | undefined {
  const parameters = rows.flatMap(({ parameter, values: { device } }): Parameter[] =>
    device && 'value' in device && parameter.access === 'read-write' && !isCommand(parameter)
      ? [{ ...parameter, planned: plannedText(device.value) }]
      : [],
  );
  return arranged(device, `plan ${parameters.length} values as they stand in the device`, parameters);
}

/** The edit that plans one value; an empty one plans nothing. */
export const planOne = (device: Device, parameter: Parameter, typed: string): Arrange =>
  arranged(device, `plan ${parameter.name}`.slice(0, 80).trim(), [
    { ...parameter, planned: typed.trim() === '' ? null : plannedText(withoutUnit(typed, parameter)) },
  ])!;

/** The edit that plans the values of a set. */
export const planSet = (
  device: Device,
  title: string,
  values: readonly { parameter: Parameter; to: string }[],
): Arrange | undefined =>
  arranged(
    device,
    `plan: ${title}`.slice(0, 80).trim(),
    values.map(({ parameter, to }) => ({ ...parameter, planned: to })),
  );

const isCommand = ({ role }: Parameter) => role?.is === 'device command';

/** The edit that puts these in the place of their older selves; undefined where there are none. */
export const arranged = (device: Device, title: string, parameters: Parameter[]): Arrange | undefined =>
  parameters.length === 0
    ? undefined
    : { edit: 'parameters.arrange', device: device.id, title, parameters, removed: [] };

/** A value as it is shown, `3.0 s` or `2 · network`, as it is entered: without unit, or the number of the label. */
function withoutUnit(typed: string, { unit, labels }: Parameter): string {
  const text = typed.trim();
  const [number, label] = text.split(' · ');
  if (label !== undefined && labels.some((l) => l.text === label)) return number!.trim();
  return unit && text.endsWith(` ${unit}`) ? text.slice(0, -unit.length - 1).trim() : text;
}
const plannedText = (text: string) => text.trim().slice(0, 250);
