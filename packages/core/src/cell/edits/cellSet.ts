import { cellShape } from '../model.js';
import { changed, changesOf, editKind } from './editKind.js';

/** Entries of the cell itself. */
export const cellSet = editKind(
  'cell.set',
  { set: changesOf(cellShape, 'controller', 'network', 'devices') },
  {
    apply: (cell, { set }) => ({ ...cell, ...set }),
    title: (_cell, { set }) => `change ${changed(set)} of the cell`,
  },
);
