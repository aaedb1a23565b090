import { expect, test } from 'vitest';
import { KeptChanges, type TextStore } from './keptChanges.js';
import type { Pending } from './editQueue.js';

/** A browser's storage with room for so many characters. */
function storage(room = 100_000): TextStore & { texts: Map<string, string> } {
  const texts = new Map<string, string>();
  return {
    texts,
    get length() {
      return texts.size;
    },
    key: (n) => [...texts.keys()][n] ?? null,
    getItem: (key) => texts.get(key) ?? null,
    removeItem: (key) => void texts.delete(key),
    setItem: (key, text) => {
      if (text.length > room) throw new Error('QuotaExceededError');
      texts.set(key, text);
    },
  };
}
const change = (id: string, madeOn: number): Pending => ({
  ...{ id, path: 'changes', madeOn },
  edit: { edit: 'device.set', device: 'b1', set: { serves: id } },
});

test('what one page leaves, the next one of the same cell takes over once, in order', () => {
  const store = storage();
  new KeptChanges(store, 'c1', 'one').keep([change('b', 3), change('c', 3)]);
  new KeptChanges(store, 'c1', 'two').keep([change('a', 2)]);
  new KeptChanges(store, 'c2', 'three').keep([change('x', 1)]);
  const next = new KeptChanges(store, 'c1', 'four');
  expect(next.takeOver()).toEqual([change('a', 2), change('b', 3), change('c', 3)]);
  expect(next.takeOver()).toEqual([]);
  expect([...store.texts.keys()]).toEqual(['unsaved c2 three']);
});

test('what is stored waits no more; an undo waits without an edit', () => {
  const store = storage();
  const kept = new KeptChanges(store, 'c1', 'one');
  kept.keep([{ id: 'u', path: 'undo', edit: undefined, madeOn: 7 }]);
  expect(new KeptChanges(store, 'c1', 'two').takeOver()).toEqual([{ id: 'u', path: 'undo', madeOn: 7 }]);
  kept.keep([change('a', 1)]);
  kept.keep([]);
  expect(store.texts.size).toBe(0);
});

test('an edit too large for the storage, and texts that are no changes, leave nothing behind', () => {
  const store = storage(300);
  const kept = new KeptChanges(store, 'c1', 'one');
  kept.keep([change('a', 1)]);
  kept.keep([change('a', 1), change('b'.repeat(400), 1)]);
  expect(store.texts.size).toBe(0);
  store.setItem('unsaved c1 two', '{"no": "list"}');
  store.setItem('unsaved c1 three', 'cut o');
  expect(kept.takeOver()).toEqual([]);
});
