import { randomUUID } from 'node:crypto';
import { applyEdit, parseInput, type Cell } from '@fadenkreuz/core';
import { CopyRequest } from '../../../../../lib/api/cells.js';
import { answer, boundedJson } from '../../../../../lib/server/answer.js';
import { insertCell, loadCell } from '../../../../../lib/server/repository/cells.js';
import { getServices } from '../../../../../lib/server/services.js';

/** A copy of a cell under another name, in a subnet of its own where one is given; its history stays behind. */
export const POST = ({ params, request }) =>
  answer(async () => {
    const { name, subnet } = parseInput(CopyRequest, await boundedJson(request), 'copy');
    const { db } = getServices();
    const { cell } = await loadCell(db, params.cell);
    const named: Cell = applyEdit({ ...cell, id: randomUUID() }, { edit: 'cell.set', set: { name } });
    const copy = subnet ? applyEdit(named, { edit: 'network.move', subnet }) : named;
    await insertCell(db, copy);
    return { id: copy.id, name: copy.name };
  });
