import { z } from 'zod';
import { int } from '../../entries/entries.js';
import { Problem } from '../../messages/problem.js';
import { chooseCyclic } from '../chooseCyclic.js';
import { deviceById } from '../find.js';
import { editKind, partId } from './editKind.js';
import { withDevice } from './parts.js';

/** Which parameters a device carries cyclically, in the order of the places; null: nothing there. */
export const parametersChoose = editKind(
  'parameters.choose',
  {
    device: partId,
    /** Which of the choices of its description. */
    choice: int(0, 7),
    parameters: z.array(partId.nullable()).max(64),
  },
  {
    apply: (cell, { device, choice, parameters }) => {
      const slots = deviceById(cell, device).description.chosen[choice];
      if (!slots) throw new Problem('edit.unknown', { what: 'choice', id: String(choice) });
      return withDevice(cell, device, (d) => chooseCyclic(d, slots, parameters));
    },
    title: (cell, { device, parameters }) =>
      `carry ${parameters.filter(Boolean).length} parameters of ${deviceById(cell, device).name} cyclically`,
  },
);
