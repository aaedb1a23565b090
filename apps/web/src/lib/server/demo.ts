import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile } from '@fadenkreuz/core';
import type { Knex } from 'knex';
import { cellLines, deleteCell, insertCell } from './repository/cells.js';

/** Loads the demo cell when there is no cell at all. */
export async function loadDemoIfEmpty(db: Knex): Promise<void> {
  if ((await cellLines(db)).length === 0) await insertCell(db, demoCell());
}

/** Puts the demo cell back as it was delivered; other cells stay. */
export async function resetDemo(db: Knex): Promise<void> {
  const cell = demoCell();
  await db.transaction(async (trx) => {
    await deleteCell(trx, cell.id);
    await insertCell(trx, cell);
  });
}

const demoCell = () => readCellFile(JSON.stringify(demo));
