import { readFileSync } from 'node:fs';
import { applyEdit, readCellFile, type Edit } from '@fadenkreuz/core';
import { describe, expect, test } from 'vitest';
import { heard, loaded, made, queueOf, refused, takenOver, type EditQueue } from './editQueue.js';

const cell = readCellFile(
  readFileSync(new URL('../../../../../demo/ripening-store-3.json', import.meta.url), 'utf8'),
);
const start = queueOf(cell, 4);
const serves = (device: string, text: string): Edit => ({
  ...{ edit: 'device.set', device },
  set: { serves: text },
});
const make = (queue: EditQueue, id: string, edit: Edit) => made(queue, { id, path: 'changes', edit });
const place = ({ shown }: EditQueue, id: string) => shown.devices.find((d) => d.id === id)!.serves;

describe('changes of this desk', () => {
  test('show at once, and know what the person saw', () => {
    const queue = make(start, 'a', serves('b1', 'scale'));
    expect(place(queue, 'b1')).toBe('scale');
    expect(queue).toMatchObject({ version: 4, pending: [{ id: 'a', madeOn: 4 }] });
    expect(queue.stored).toBe(cell);
  });

  test('what another page left is shown before what is made here, and what cannot be made any more is only sent', () => {
    const left = make(start, 'a', serves('b1', 'left')).pending;
    const gone = { ...left[0]!, id: 'x', edit: serves('no such device', '') };
    const queue = takenOver(make(start, 'b', serves('v1', 'here')), [...left, gone]);
    expect([place(queue, 'b1'), place(queue, 'v1')]).toEqual(['left', 'here']);
    expect(queue.pending.map((p) => p.id)).toEqual(['a', 'x', 'b']);
  });

  test('one that the model refuses changes nothing', () => {
    expect(() => make(start, 'a', { edit: 'device.set', device: 'b1', set: { name: '' } })).toThrow(/name/);
  });

  test('what is confirmed stays on the screen as the same value', () => {
    const two = make(make(start, 'a', serves('b1', '1')), 'b', serves('b1', '2'));
    const one = heard(two, { version: 5, id: 'a' });
    expect(one).toMatchObject({ version: 5, pending: [{ id: 'b', madeOn: 4 }] });
    expect(one.shown).toBe(two.shown);
    const none = heard(one, { version: 6, id: 'b' });
    expect(none.pending).toEqual([]);
    expect(none.stored).toEqual(none.shown);
  });

  test('one that is refused goes alone; those behind it stay', () => {
    const two = make(make(start, 'a', serves('b1', '1')), 'b', serves('k1', '2'));
    const one = refused(two, 'a');
    expect([place(one, 'b1'), place(one, 'k1')]).toEqual([place(start, 'b1'), '2']);
    expect(one.pending.map((p) => p.id)).toEqual(['b']);
  });

  test('undo is shown once the server has said what it does', () => {
    const asked = made(start, { id: 'u', path: 'undo', edit: undefined });
    expect(asked.shown).toBe(cell);
    // Until it is told what was done, nothing is known.
    expect(heard(asked, { version: 5, id: 'u' })).toBe(asked);
    const done = heard(asked, { version: 5, id: 'u', edit: serves('b1', 'as before') });
    expect(place(done, 'b1')).toBe('as before');
  });
});

describe('changes of others', () => {
  const theirs = { version: 5, id: 'x', edit: serves('k1', 'theirs') };

  test('come between, under the own ones', () => {
    const queue = heard(make(start, 'a', serves('b1', 'mine')), theirs);
    expect([place(queue, 'b1'), place(queue, 'k1')]).toEqual(['mine', 'theirs']);
    expect(queue.stored).toEqual(applyEdit(cell, theirs.edit));
    // What the person saw when it was made stays: the server finds out whether the two meet.
    expect(queue.pending[0]!.madeOn).toBe(4);
  });

  test('what they took away cannot be shown changed; the server will say why', () => {
    const gone = { version: 5, id: 'x', edit: { edit: 'device.remove', device: 'b1' } as const };
    const queue = heard(make(start, 'a', serves('b1', 'mine')), gone);
    expect(queue.shown.devices.some((d) => d.id === 'b1')).toBe(false);
    expect(queue.pending).toHaveLength(1);
  });

  test('out of order they wait for their turn; twice they count once', () => {
    const later = { version: 6, id: 'y', edit: serves('k1', 'later') };
    const waiting = heard(heard(start, later), later);
    expect(waiting).toMatchObject({ version: 4, ahead: [{ version: 6 }] });
    const both = heard(waiting, theirs);
    expect(both).toMatchObject({ version: 6, ahead: [] });
    expect(place(both, 'k1')).toBe('later');
    expect(heard(both, theirs)).toBe(both);
  });
});

test('a cell that was loaded keeps what is equal, and the own changes on top', () => {
  const queue = make(start, 'a', serves('b1', 'mine'));
  const fresh = structuredClone(applyEdit(cell, serves('k1', 'theirs')));
  const now = loaded(queue, fresh, 9);
  expect(now.version).toBe(9);
  expect([place(now, 'b1'), place(now, 'k1')]).toEqual(['mine', 'theirs']);
  const same = (id: string) =>
    now.stored.devices.find((d) => d.id === id) === cell.devices.find((d) => d.id === id);
  expect([same('r1'), same('k1')]).toEqual([true, false]);
  expect(loaded(now, cell, 8)).toBe(now);
});
