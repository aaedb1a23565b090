import { Network } from '../network.js';
import { changed, changesOf, editKind } from './editKind.js';

/** Entries of the network. */
export const networkSet = editKind(
  'network.set',
  { set: changesOf(Network) },
  {
    apply: (cell, { set }) => ({ ...cell, network: { ...cell.network, ...set } }),
    title: (_cell, { set }) => `change ${changed(set)} of the network`,
  },
);
