import { exchangeById } from '../find.js';
import { Exchange } from '../exchange.js';
import { changed, changesOf, editKind, partId } from './editKind.js';

/** Entries of an exchange; its steps as a whole list. */
export const exchangeSet = editKind(
  'exchange.set',
  { exchange: partId, set: changesOf(Exchange) },
  {
    apply: (cell, { exchange, set }) => {
      const before = exchangeById(cell, exchange);
      return { ...cell, exchanges: cell.exchanges.map((e) => (e === before ? { ...e, ...set } : e)) };
    },
    title: (cell, { exchange, set }) => `change ${changed(set)} of ${exchangeById(cell, exchange).name}`,
  },
);
