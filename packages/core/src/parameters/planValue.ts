import type { Device } from '../cell/model.js';
import type { Parameter } from '../devices/parameter.js';
import type { Finding } from '../messages/finding.js';

/** The edit that plans a value for a parameter, and what its button says; a value with a label is called by it. */
export function planValue(device: Device, parameter: Parameter, to: string): NonNullable<Finding['fix']> {
  const { labels, name } = parameter;
  const called = labels.find(({ value }) => String(value) === to)?.text ?? to;
  return {
    title: `Plan ${called}`,
    edit: {
      ...{ edit: 'parameters.arrange', device: device.id },
      title: `plan ${called} for ${name}`.slice(0, 80).trim(),
      parameters: [{ ...parameter, planned: to }],
    },
  };
}
