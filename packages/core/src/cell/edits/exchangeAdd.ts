import type { z } from 'zod';
import { parseInput } from '../../entries/parse.js';
import { Exchange } from '../exchange.js';
import { Problem } from '../../messages/problem.js';
import { checkedLater, editKind } from './editKind.js';

/** An exchange behind the others of the cell. */
export const exchangeAdd = editKind(
  'exchange.add',
  { exchange: checkedLater<z.input<typeof Exchange>>() },
  {
    apply: (cell, edit) => {
      const exchange = parseInput(Exchange, edit.exchange, 'exchange');
      if (cell.exchanges.some(({ id }) => id === exchange.id))
        throw new Problem('edit.idTaken', { id: exchange.id });
      return { ...cell, exchanges: [...cell.exchanges, exchange] };
    },
    title: (_cell, { exchange }) => `add the exchange ${exchange.name}`,
  },
);
