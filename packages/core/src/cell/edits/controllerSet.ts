import { Controller } from '../model.js';
import { changed, changesOf, editKind } from './editKind.js';

/** Entries of the controller. */
export const controllerSet = editKind(
  'controller.set',
  { set: changesOf(Controller) },
  {
    apply: (cell, { set }) => ({ ...cell, controller: { ...cell.controller, ...set } }),
    title: (_cell, { set }) => `change ${changed(set)} of the controller`,
  },
);
