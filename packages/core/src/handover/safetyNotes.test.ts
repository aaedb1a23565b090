import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { expect, test } from 'vitest';
import { readCellFile } from '../cell/cellFile.js';
import { statusOnly } from './safetyNotes.js';
import { signalList } from './signalList.js';
import { structuredText } from './structuredText/structuredText.js';

const cell = readCellFile(JSON.stringify(demo));

test('every signal of a safety controller says in code and in the list that it is status only', () => {
  const safe = cell.devices.find((d) => d.kind === 'safety controller')!;
  const names = safe.links.flatMap((l) => [...l.command.fields, ...l.feedback.fields].map((f) => f.name));
  const rows = signalList(cell)
    .split('\r\n')
    .filter((row) => new RegExp(`^"?${safe.name}"?[,;]`).test(row));
  const computed = safe.links.flatMap((l) => l.feedback.derived);
  expect(computed.length).toBeGreaterThan(0);
  expect(rows).toHaveLength(names.length + computed.length);
  for (const row of rows) expect(row).toContain(statusOnly);
  const code = structuredText(cell);
  for (const name of names)
    expect(code.split('\n').find((line) => line.trim().startsWith(`${name} :`))).toContain(statusOnly);
});

test('a status bit says what it means, by the network; other devices say nothing of it', () => {
  const code = structuredText(cell);
  const line = code.split('\n').find((l) => l.trim().startsWith('curtain_ok :'));
  expect(line).toContain('1 when no beam of gate_curtain is interrupted');
  // Another device that reports a safety function, and nothing of the others.
  const others = cell.devices.filter((d) => d.kind === 'weigher' || d.kind === 'marker');
  const rows = signalList(cell)
    .split('\r\n')
    .filter((row) => others.some(({ name }) => new RegExp(`^"?${name}"?[,;]`).test(row)));
  expect(rows.length).toBeGreaterThan(5);
  for (const row of rows) expect(row).not.toContain(statusOnly);
});
