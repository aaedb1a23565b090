import { readCellFile, type Cell } from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { expect, test } from 'vitest';
import { perCell } from './perCell.js';

const cell = readCellFile(JSON.stringify(demo));

test('is worked out once for a cell, and anew for the one that an edit makes of it', () => {
  let worked = 0;
  const count = perCell((cell: Cell) => ((worked += 1), cell.devices.length));
  const fewer = { ...cell, devices: cell.devices.slice(1) };
  const all = cell.devices.length;
  expect([count(cell), count(cell), count(fewer), count(cell)]).toEqual([all, all, all - 1, all]);
  expect(worked).toBe(2);
});

test('what is undefined is worked out once as well', () => {
  let worked = 0;
  const nothing = perCell(() => void (worked += 1));
  nothing(cell);
  nothing(cell);
  expect(worked).toBe(1);
});
