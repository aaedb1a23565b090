import { z } from 'zod';
import { printable } from '../../entries/entries.js';
import type { Cell } from '../model.js';
import { cellShape, Device } from '../model.js';
import { changesOf, editKind, partId } from './editKind.js';

/** Parts of a cell as they were before: what undo and redo make of it, for everybody who has the state between. */
export const cellRestore = editKind(
  'cell.restore',
  {
    /** What is taken back or made again. */
    title: printable(200),
    set: changesOf(cellShape, 'devices').default({}),
    /** Devices that change or come back, whole. */
    devices: z.array(Device).max(500).default([]),
    removed: z.array(partId).max(500).default([]),
    /** Ids in the order of the line-up, where that changes. */
    order: z.array(partId).max(500).optional(),
  },
  {
    apply: (cell, { set, devices, removed, order }) => {
      const given = new Map(devices.map((d) => [d.id, d]));
      const known = new Set(cell.devices.map((d) => d.id));
      const list = [
        ...cell.devices.filter((d) => !removed.includes(d.id)).map((d) => given.get(d.id) ?? d),
        ...devices.filter((d) => !known.has(d.id)),
      ];
      const place = new Map(order?.map((id, i) => [id, i]));
      const at = (device: Device) => place.get(device.id) ?? list.length;
      return { ...cell, ...set, devices: order ? [...list].sort((a, b) => at(a) - at(b)) : list };
    },
    title: (_cell, { title }) => title,
  },
);

/** The edit that leads from one state to another; parts that are the same values in both are left out. */
export function restoring(before: Cell, after: Cell, title: string): z.input<typeof cellRestore.schema> {
  const heads = (Object.keys(after) as (keyof Cell)[]).filter(
    (key) => key !== 'devices' && JSON.stringify(before[key]) !== JSON.stringify(after[key]),
  );
  const known = new Map(before.devices.map((d) => [d.id, d]));
  const left = new Set(after.devices.map((d) => d.id));
  const removed = before.devices.map((d) => d.id).filter((id) => !left.has(id));
  const kept = before.devices.map((d) => d.id).filter((id) => left.has(id));
  const added = after.devices.map((d) => d.id).filter((id) => !known.has(id));
  const order = after.devices.map((d) => d.id);
  return {
    edit: 'cell.restore',
    title,
    set: Object.fromEntries(heads.map((key) => [key, after[key]])),
    devices: after.devices.filter((d) => known.get(d.id) !== d),
    removed,
    ...([...kept, ...added].join() === order.join() ? {} : { order }),
  };
}
