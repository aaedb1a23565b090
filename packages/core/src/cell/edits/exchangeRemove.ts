import { exchangeById } from '../find.js';
import { editKind, partId } from './editKind.js';

/** An exchange is gone. */
export const exchangeRemove = editKind(
  'exchange.remove',
  { exchange: partId },
  {
    apply: (cell, { exchange }) => {
      const gone = exchangeById(cell, exchange);
      return { ...cell, exchanges: cell.exchanges.filter((e) => e !== gone) };
    },
    title: (cell, { exchange }) => `remove the exchange ${exchangeById(cell, exchange).name}`,
  },
);
