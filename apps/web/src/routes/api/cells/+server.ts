import { randomUUID } from 'node:crypto';
import { imagesOf, maxCellFileBytes, refuseOutside } from '@fadenkreuz/core';
import { answer, boundedBytes } from '../../../lib/server/answer.js';
import { readFile } from '../../../lib/server/files/readFile.js';
import { cellLines, insertCell } from '../../../lib/server/repository/cells.js';
import { getServices } from '../../../lib/server/services.js';

export const GET = () => answer(() => cellLines(getServices().db));

/** Takes a cell file in as a new cell: all of it, or, with a Problem, nothing. */
export const POST = ({ request }) =>
  answer(async () => {
    const cell = {
      ...(await readFile('cell', await boundedBytes(request, maxCellFileBytes))),
      id: randomUUID(),
    };
    for (const device of cell.devices)
      for (const link of device.links) imagesOf(link).forEach((image) => refuseOutside(image));
    await insertCell(getServices().db, cell);
    return { id: cell.id, name: cell.name };
  });
