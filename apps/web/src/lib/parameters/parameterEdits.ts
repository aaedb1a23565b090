import type { Device, Edit, Parameter, ReadParameters } from '@fadenkreuz/core';

type Arrange = Extract<Edit, { edit: 'parameters.arrange' }>;

const keyOf = ({ name, group }: Parameter) => `${group}\n${name}`.toLowerCase();

/**
 * The edit that takes the parameters of a table: one that the device has already, by heading and name, is replaced
 * where it stands and keeps its id; others come behind. With `replace` those that the table does not have go.
 */
export function takeParameters(
  { id, description: { parameters: present } }: Device,
  { parameters }: Pick<ReadParameters, 'parameters'>,
  replace: boolean,
): Arrange {
  const known = new Map(present.map((p) => [keyOf(p), p.id]));
  const taken = parameters.map((parameter) => {
    const own = known.get(keyOf(parameter));
    known.delete(keyOf(parameter));
    return own === undefined ? parameter : { ...parameter, id: own };
  });
  return {
    edit: 'parameters.arrange',
    device: id,
    title: `take ${taken.length} parameters from a table`,
    parameters: taken,
    removed: replace ? [...known.values()] : [],
  };
}

/** A parameter of which nothing is known yet, for a person to fill in. */
export function newParameter(device: Device, newId: () => string): Parameter {
  const names = new Set(device.description.parameters.map((p) => p.name));
  let n = device.description.parameters.length + 1;
  while (names.has(`parameter ${n}`)) n += 1;
  return {
    id: newId(),
    code: '',
    name: `parameter ${n}`,
    group: device.description.parameters.at(-1)?.group ?? '',
    place: null,
    ...{ role: null, key: null },
    type: 'UINT',
    bits: 16,
    order: null,
    access: 'read-write',
    scale: null,
    unit: '',
    limits: null,
    initial: null,
    ...{ planned: null, decimals: null, retained: null, stopFirst: false, afterRestart: false },
    labels: [],
    note: '',
  };
}

/** `0 to 650 s, default 15`: what a parameter can be; the unit stands behind what comes first. */
export function rangeText({ limits, initial, unit }: Pick<Parameter, 'limits' | 'initial' | 'unit'>): string {
  const ends = limits ? `${limits.minimum ?? '…'} to ${limits.maximum ?? '…'}` : '';
  const first = initial === null ? '' : `default ${initial}`;
  const [head, ...rest] = [ends, first].filter(Boolean);
  return head ? [unit ? `${head} ${unit}` : head, ...rest].join(', ') : '';
}
