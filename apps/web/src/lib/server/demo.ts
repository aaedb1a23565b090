import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile } from '@fadenkreuz/core';
import type { Knex } from 'knex';
import { cellLines, insertCell, removeCell } from './repository/cells.js';
import { addDescriber, findDescribers, removeDescribersNamed } from './repository/describers.js';

/** The demo's description files, each as a data URL by its path. */
const describers = import.meta.glob<string>('../../../../../demo/describers/*', {
  query: '?url&inline',
  import: 'default',
  eager: true,
});

/** Loads the demo cell when there is no cell at all, and its describers when the library is empty. */
export async function loadDemoIfEmpty(db: Knex): Promise<void> {
  if ((await cellLines(db)).length === 0) await insertCell(db, demoCell());
  if ((await findDescribers(db)).length === 0) await loadDescribers(db);
}

async function loadDescribers(db: Knex): Promise<void> {
  for (const [path, url] of Object.entries(describers)) {
    const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer());
    await addDescriber(db, fileName(path), bytes);
  }
}

/** Puts the demo cell back as it was delivered; other cells stay, and so does what else is in the library. */
export async function resetDemo(db: Knex): Promise<void> {
  const cell = demoCell();
  await db.transaction(async (trx) => {
    await removeCell(trx, cell.id);
    await insertCell(trx, cell);
  });
  // An older state of the demo's own files goes.
  await removeDescribersNamed(db, Object.keys(describers).map(fileName));
  await loadDescribers(db);
}

const fileName = (path: string) => path.split('/').at(-1)!;

const demoCell = () => readCellFile(JSON.stringify(demo));
