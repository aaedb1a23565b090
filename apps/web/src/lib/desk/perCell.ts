import type { Cell } from '@fadenkreuz/core';

/**
 * Works something out once for a cell. A `Cell` never changes, and the server has the same one for every page until the
 * next edit, so that only the first page after it waits for this.
 */
export function perCell<T>(work: (cell: Cell) => T): (cell: Cell) => T {
  const known = new WeakMap<Cell, { result: T }>();
  return (cell) => {
    const found = known.get(cell);
    if (found) return found.result;
    const result = work(cell);
    known.set(cell, { result });
    return result;
  };
}
