import { randomUUID } from 'node:crypto';
import { chmod, mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { applyEdit, Field, readCellFile, type Cell, type Edit } from '@fadenkreuz/core';
import { CellFeed } from '../../apps/web/src/lib/server/cellFeed.js';
import { openDatabase } from '../../apps/web/src/lib/server/database.js';
import { insertCell, loadCell } from '../../apps/web/src/lib/server/repository/cells.js';
import { makeEdit } from '../../apps/web/src/lib/server/repository/changes.js';
import { Cluster } from '../../launch/src/cluster.js';
import { freePort } from '../../launch/src/testDatabase.js';
import { median } from '../cyclic/measure.js';

/**
 * One note on one field of a cell with 200 devices and 20,000 fields, stored and heard of by somebody else, beside a
 * bare UPDATE of one row with a NOTIFY in a transaction, in turns. A database of its own.
 *
 *   npm run edits -w bench -- [ROUNDS]
 */
const rounds = Number(process.argv[2] ?? 200);
const [devices, fields] = [200, 100];

function largeCell(): Cell {
  const cell = readCellFile(JSON.stringify(demo));
  const model = cell.devices.find((d) => d.name === 'climate_io_u1')!;
  const link = model.links[0]!;
  return {
    ...cell,
    id: 'large',
    network: { ...cell.network, subnet: '10.0.0.0/8', ranges: [] },
    devices: Array.from({ length: devices }, (_, d) => ({
      ...model,
      id: `d${d}`,
      name: `unit_m${d}`,
      address: `10.40.${d >> 8}.${d & 255}`,
      description: { ...model.description, parameters: [], lights: [] },
      links: [
        {
          ...link,
          id: `l${d}`,
          command: { ...link.command, id: `c${d}`, fields: [], groups: [] },
          feedback: {
            ...link.feedback,
            ...{ id: `f${d}`, size: 200, groups: [], derived: [] },
            fields: Array.from({ length: fields }, (_, f) =>
              Field.parse({
                id: `d${d}f${f}`,
                name: `value_${f}`,
                type: 'UINT',
                at: f * 16,
                bits: 16,
                unit: 'Hz',
              }),
            ),
          },
        },
      ],
    })) as Cell['devices'],
  };
}
const note = (n: number): Edit => ({
  ...{ edit: 'field.set', image: `f${n % devices}`, field: `d${n % devices}f${n % fields}` },
  set: { note: `seen in round ${n}` },
});

const home = await mkdtemp(join('/tmp', 'fadenkreuz-bench-'));
await chmod(home, 0o755);
const cluster = new Cluster(home, await freePort());
await cluster.start();
const url = await cluster.url();
const db = openDatabase(url);
await db.migrate.latest();
const cell = largeCell();
await insertCell(db, cell);
await db.raw('create table bare (id int primary key, note text)');
await db('bare').insert({ id: 1, note: '' });

/** Somebody else: hears of a change and has the cell with it. */
let shown = cell;
const heard = new Map<string, number>();
const feed = new CellFeed(url);
feed.listen((news) => {
  if (!('notice' in news) || !news.notice.change) return;
  shown = applyEdit(shown, news.notice.change.edit);
  heard.set(news.notice.change.id, performance.now());
});

const times = { edit: [] as number[], shown: [] as number[], bare: [] as number[], apply: [] as number[] };
const answers: number[] = [];
let { version } = await loadCell(db, cell.id);
for (let n = 0; n < rounds + 20; n += 1) {
  const id = randomUUID();
  const edit = note(n);
  const from = performance.now();
  const made = await makeEdit(db, cell.id, { id, madeOn: version, who: 'bench', desk: 'bench' }, edit);
  const done = performance.now();
  version = made.version;
  while (!heard.has(id)) await new Promise((resolve) => setImmediate(resolve));
  const applied = performance.now();
  applyEdit(shown, note(n + 1));
  const appliedTo = performance.now();
  const bareFrom = performance.now();
  await db.transaction(async (trx) => {
    await trx('bare')
      .where({ id: 1 })
      .update({ note: `seen in round ${n}` });
    await trx.raw('select pg_notify(?, ?)', ['bare', String(n)]);
  });
  const bareDone = performance.now();
  // The first rounds load the cell and warm up.
  if (n < 20) continue;
  times.edit.push(done - from);
  times.shown.push(heard.get(id)! - from);
  times.apply.push(appliedTo - applied);
  times.bare.push(bareDone - bareFrom);
  const own = { version: made.version, changes: [{ version: made.version, id }], whole: false };
  answers.push(JSON.stringify({ ...own, undo: made.undo, redo: made.redo }).length);
}
const ms = (list: number[]) => {
  const sorted = [...list].sort((a, b) => a - b);
  return `median ${median(list).toFixed(2)} ms, p95 ${sorted[Math.floor(sorted.length * 0.95)]!.toFixed(2)}`;
};
console.log(`${devices} devices, ${devices * fields} fields, ${rounds} notes`);
console.log(`  stored:                 ${ms(times.edit)}`);
console.log(`  of that, the edit alone: ${ms(times.apply)}`);
console.log(`  somebody else has it:   ${ms(times.shown)}`);
console.log(`  bare UPDATE and NOTIFY: ${ms(times.bare)}`);
console.log(`  ratio by medians:       ${(median(times.edit) / median(times.bare)).toFixed(2)}`);
console.log(`  answer:                 ${Math.max(...answers)} bytes at most`);
await db.destroy();
await cluster.stop();
await rm(home, { recursive: true, force: true });
process.exit(0);
