import { readCellFile } from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { expect, test } from 'vitest';
import { asText, cellTransport } from './cellTransport.js';

const cell = readCellFile(JSON.stringify(demo));

test('a marked cell comes back as it was; everything else goes its usual way', () => {
  expect(cellTransport.encode(cell)).toBe(false);
  const carried = cellTransport.encode(asText(cell));
  expect(typeof carried).toBe('string');
  const back = cellTransport.decode(carried as string);
  expect(back).toEqual(cell);
  expect(JSON.stringify(back)).toBe(JSON.stringify(cell));
  // Layouts of images and of their points are carried once.
  const bare = {
    ...cell,
    devices: cell.devices.map((d) => ({ ...d, description: { ...d.description, parameters: [] } })),
  };
  expect((cellTransport.encode(asText(bare)) as string).length).toBeLessThan(
    0.75 * JSON.stringify(bare).length,
  );
  for (const other of [null, undefined, 'text', 7, {}, cell.devices[0]] as unknown as (typeof cell)[])
    expect(cellTransport.encode(other)).toBe(false);
});
