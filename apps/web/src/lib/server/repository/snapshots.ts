import { Problem, type Identity, type Snapshot } from '@fadenkreuz/core';
import type { Knex } from 'knex';
import type { NewSnapshot, SnapshotHead } from '../../api/parameters.js';

interface SnapshotRow {
  id: string;
  cell_id: string;
  device_id: string;
  device_name: string;
  title: string;
  person: string;
  at: Date;
  identity: Identity;
  /** bigint in the database: a serial number has 32 bits without a sign. */
  serial_number: string | null;
  values: Snapshot['values'];
}

/** Snapshots of one device at most; an older one must be deleted before another is kept. */
const mostOfDevice = 200;

const headOf = (row: Omit<SnapshotRow, 'values'>): Omit<Snapshot, 'values'> => ({
  id: row.id,
  title: row.title,
  device: { id: row.device_id, name: row.device_name },
  identity: row.identity,
  serialNumber: row.serial_number === null ? null : Number(row.serial_number),
  at: row.at.toISOString(),
  person: row.person,
});

const headColumns = [
  ...['id', 'device_id', 'device_name', 'title', 'person', 'at', 'identity', 'serial_number'],
] as const;

/** Snapshots of a cell, the latest first. */
export async function snapshotHeads(db: Knex, cellId: string): Promise<SnapshotHead[]> {
  const rows = await db('snapshot')
    .where({ cell_id: cellId })
    .orderBy('at', 'desc')
    .select<(Omit<SnapshotRow, 'values'> & { count: string })[]>(
      ...headColumns,
      db.raw('jsonb_array_length("values") as count'),
    );
  return rows.map(({ count, ...row }) => ({ ...headOf(row), count: Number(count) }));
}

/** One snapshot whole. Throws `edit.unknown`. */
export async function loadSnapshot(db: Knex, cellId: string, id: string): Promise<Snapshot> {
  const row = await db('snapshot').where({ cell_id: cellId, id }).first<SnapshotRow | undefined>();
  if (!row) throw new Problem('edit.unknown', { what: 'snapshot', id });
  return { ...headOf(row), values: row.values };
}

/** Keeps a snapshot; the same one again changes nothing. Throws `snapshot.tooMany`, `edit.unknown` for the cell. */
export async function keepSnapshot(
  db: Knex,
  cellId: string,
  person: string,
  { device, serialNumber, identity, values, ...head }: NewSnapshot,
): Promise<void> {
  await db.transaction(async (transaction) => {
    const cell = await transaction('cell').where({ id: cellId }).forShare().first<object | undefined>('id');
    if (!cell) throw new Problem('edit.unknown', { what: 'cell', id: cellId });
    const kept = await transaction('snapshot')
      .where({ cell_id: cellId, device_id: device.id })
      .count()
      .first<{ count: string }>();
    if (Number(kept.count) >= mostOfDevice)
      throw new Problem('snapshot.tooMany', { device: device.name, most: mostOfDevice });
    await transaction('snapshot')
      .insert({
        ...head,
        cell_id: cellId,
        device_id: device.id,
        device_name: device.name,
        person,
        at: transaction.fn.now(),
        identity: JSON.stringify(identity),
        serial_number: serialNumber,
        values: JSON.stringify(values),
      })
      .onConflict('id')
      .ignore();
  });
}

/** Deletes a snapshot. Throws `edit.unknown`. */
export async function deleteSnapshot(db: Knex, cellId: string, id: string): Promise<void> {
  const gone = await db('snapshot').where({ cell_id: cellId, id }).delete();
  if (gone === 0) throw new Problem('edit.unknown', { what: 'snapshot', id });
}
