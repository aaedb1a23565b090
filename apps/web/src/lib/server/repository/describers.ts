import { createHash, randomUUID } from 'node:crypto';
import { Problem } from '@fadenkreuz/core';
import {
  readDescriber,
  summaryOf,
  type AnyDescriber,
  type Described,
  type DescriberSummary,
} from '@fadenkreuz/core/describers';
import type { Knex } from 'knex';

/** What the library lists of a describer; its file is fetched by id. */
export interface LibraryLine extends DescriberSummary {
  id: string;
  fileName: string;
}

interface DescriberRow {
  id: string;
  file_name: string;
  source: DescriberSummary['source'];
  protocol: DescriberSummary['protocol'];
  maker: string;
  vendor: number;
  /** A number of more than 32 bits, so a text. */
  product: string;
  title: string;
  kind: string;
  order_numbers: string[];
  revision: string;
}

const columns = [
  ...['id', 'file_name', 'source', 'protocol', 'maker', 'vendor', 'product'],
  ...['title', 'kind', 'order_numbers', 'revision'],
];

const lineOf = ({ file_name, order_numbers, product, ...row }: DescriberRow): LibraryLine => ({
  ...row,
  product: Number(product),
  fileName: file_name,
  orderNumbers: order_numbers,
});

/** Lines that a search shows at most. */
const mostShown = 300;

/**
 * Describers whose maker, title, kind, protocol, order number or file name hold every word; newest revision of a
 * product last.
 */
export async function findDescribers(db: Knex, text = ''): Promise<LibraryLine[]> {
  const query = db('describer').select<DescriberRow[]>(columns);
  for (const word of text.trim().split(/\s+/).filter(Boolean).slice(0, 8)) {
    const like = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
    void query.whereRaw(
      "concat_ws(' ', maker, title, kind, protocol, source, file_name, order_numbers::text) ilike ?",
      [like],
    );
  }
  const rows = await query.orderBy(['maker', 'title', 'revision', 'added', 'id']).limit(mostShown);
  return rows.map(lineOf);
}

const inProcess = (bytes: Uint8Array) => readDescriber(bytes, TextDecoder);

/**
 * Takes a description file into the library; a file that is there already is left as it is. Throws what reading throws,
 * and stores nothing then; `read` reads files of others with limits.
 */
export async function addDescriber(
  db: Knex,
  fileName: string,
  bytes: Uint8Array,
  read: (bytes: Uint8Array) => Described<AnyDescriber> | Promise<Described<AnyDescriber>> = inProcess,
): Promise<LibraryLine> {
  const { describer } = await read(bytes);
  const { orderNumbers, ...summary } = summaryOf(describer);
  const clean = (text: string) => text.replaceAll('\0', '').slice(0, 200);
  const row = {
    ...summary,
    maker: clean(summary.maker),
    title: clean(summary.title) || clean(fileName),
    kind: clean(summary.kind),
    revision: clean(summary.revision),
    id: randomUUID(),
    hash: createHash('sha256').update(bytes).digest('hex'),
    file_name: clean(fileName),
    order_numbers: JSON.stringify(orderNumbers.slice(0, 200).map(clean)),
    bytes: Buffer.from(bytes),
  };
  await db('describer').insert(row).onConflict('hash').ignore();
  const [stored] = await db('describer').select<DescriberRow[]>(columns).where({ hash: row.hash });
  return lineOf(stored!);
}

/** The file of a describer as it came. Throws `describer.notInLibrary`. */
export async function describerFile(db: Knex, id: string): Promise<{ fileName: string; bytes: Buffer }> {
  const row = await db('describer')
    .where({ id })
    .first<{ file_name: string; bytes: Buffer } | undefined>('file_name', 'bytes');
  if (!row) throw new Problem('describer.notInLibrary', { id });
  return { fileName: row.file_name, bytes: row.bytes };
}

/** Takes a describer out of the library; devices that were made from it stay as they are. */
export async function removeDescriber(db: Knex, id: string): Promise<void> {
  await db('describer').where({ id }).delete();
}

/** Takes out every describer that came as a file of one of these names. */
export async function removeDescribersNamed(db: Knex, fileNames: readonly string[]): Promise<void> {
  await db('describer')
    .whereRaw('file_name = any(?)', [[...fileNames]])
    .delete();
}
