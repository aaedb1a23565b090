import { z } from 'zod';
import { maxParameters, Parameter } from '../../devices/parameter.js';
import { parseInput } from '../../entries/parse.js';
import { printable } from '../../entries/entries.js';
import { Problem } from '../../messages/problem.js';
import { deviceById } from '../find.js';
import { checkedLater, editKind, partId } from './editKind.js';
import { arranged, withDevice } from './parts.js';

/** Parameters of a device: those with a known id are replaced, others added behind them. */
export const parametersArrange = editKind(
  'parameters.arrange',
  {
    device: partId,
    /** What was done, for the history. */
    title: printable(80),
    parameters: z.array(checkedLater<z.input<typeof Parameter>>()).max(maxParameters).default([]),
    removed: z.array(partId).max(maxParameters).default([]),
  },
  {
    apply: (cell, { device, parameters, removed }) => {
      const { parameters: present } = deviceById(cell, device).description;
      const missing = removed.find((gone) => !present.some((p) => p.id === gone));
      if (missing !== undefined) throw new Problem('edit.unknown', { what: 'parameter', id: missing });
      const entered = new Map(
        parameters.map((p) => parseInput(Parameter, p, 'parameter')).map((p) => [p.id, p]),
      );
      return withDevice(cell, device, (d) => ({
        ...d,
        description: { ...d.description, parameters: arranged(present, entered, removed) },
      }));
    },
    title: (cell, { device, title }) => `${title} of ${deviceById(cell, device).name}`,
  },
);
