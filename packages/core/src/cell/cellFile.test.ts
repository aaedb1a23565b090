import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { Field } from '../layout/field.js';
import { cellFileSchema, readCellFile, writeCellFile } from './cellFile.js';
import { checkedAfter, type Cell } from './model.js';
import { maxCellFileBytes } from './size.js';
import { testCell, testDevice } from './testCell.js';

const demoText = readFileSync(new URL('../../../../demo/ripening-store-3.json', import.meta.url), 'utf8');
const schemaFile = '../../schema/cell-file.schema.json';

const broken = (
  change: (file: { [key: string]: unknown; cell: ReturnType<typeof testCell> }) => void,
): string => {
  const file = JSON.parse(writeCellFile(testCell()));
  change(file);
  return JSON.stringify(file);
};
const link = (file: { cell: ReturnType<typeof testCell> }) => file.cell.devices[0]!.links[0]!;

describe('cell file', () => {
  test('the demo cell is written exactly as it was read', () => {
    expect(writeCellFile(readCellFile(demoText))).toBe(demoText);
  });

  test('keys come in the order of the schema, however they came in', () => {
    const turned = (value: unknown): unknown =>
      Array.isArray(value)
        ? value.map(turned)
        : value && typeof value === 'object'
          ? Object.fromEntries(
              Object.entries(value)
                .reverse()
                .map(([k, v]) => [k, turned(v)]),
            )
          : value;
    expect(writeCellFile(readCellFile(JSON.stringify(turned(JSON.parse(demoText)))))).toBe(demoText);
  });

  test('the published JSON Schema is that of the model (npx vitest -u writes it anew)', async () => {
    await expect(JSON.stringify(cellFileSchema(), null, 2) + '\n').toMatchFileSnapshot(schemaFile);
  });

  test.each<[string, string, string]>([
    ['cut off', demoText.slice(0, 5000), 'file.notJson'],
    ['empty', '', 'file.notJson'],
    ['no cell', '{"hello": 1}', 'file.notACell'],
    ['a list', '[]', 'file.notACell'],
    ['of a later version', broken((f) => (f['version'] = 6)), 'file.version'],
    ['40 MB', `"${'x'.repeat(40 * 1024 * 1024)}"`, 'file.tooLarge'],
    ['nested 100,000 deep', '['.repeat(100_000) + ']'.repeat(100_000), 'file.notJson'],
    [
      'of version 1 and nested 5,000 deep',
      `{"format": "fadenkreuz-cell", "version": 1, "cell": ${'['.repeat(5000)}${']'.repeat(5000)}}`,
      'file.notJson',
    ],
    [
      'with a key that nobody knows',
      broken((f) => ((f.cell as never as Record<string, unknown>)['x'] = 1)),
      'input.invalid',
    ],
    [
      'with a prototype key',
      demoText.replace('"cell": {', '"cell": {"__proto__": {"polluted": 1},'),
      'input.invalid',
    ],
    ['negative size', broken((f) => (link(f).feedback.size = -4)), 'input.invalid'],
    ['size of a half byte', broken((f) => (link(f).feedback.size = 1.5)), 'input.invalid'],
    ['address with 256', broken((f) => (f.cell.devices[0]!.address = '192.168.40.256')), 'input.invalid'],
    ['address in octal', broken((f) => (f.cell.devices[0]!.address = '0300.0250.1.1')), 'input.invalid'],
    ['subnet /33', broken((f) => (f.cell.network.subnet = '10.0.0.0/33')), 'input.invalid'],
    ['the same id twice', broken((f) => f.cell.devices.push(testDevice())), 'input.invalid'],
    ['NUL in a name', broken((f) => (f.cell.devices[0]!.name = 'a\u0000b')), 'input.invalid'],
    ['a direction mark in a name', broken((f) => (f.cell.devices[0]!.name = 'a\u202eb')), 'input.invalid'],
    ['half a surrogate pair', broken((f) => (f.cell.devices[0]!.name = 'a\ud83d')), 'input.invalid'],
    ['a name of 65 characters', broken((f) => (f.cell.devices[0]!.name = 'x'.repeat(65))), 'input.invalid'],
  ])('a file that is %s is refused', (_says, text, code) => {
    expect(() => readCellFile(text)).toThrow(expect.objectContaining({ code }) as Error);
    expect(({} as { polluted?: number }).polluted).toBeUndefined();
  });

  test.each(['Käsewender', 'Ölpumpe №2', 'вентилятор', '搬送機', 'pump 🧀'])('a name may be %s', (name) => {
    const text = broken((f) => (f.cell.devices[0]!.name = name));
    expect(readCellFile(text).devices[0]?.name).toBe(name);
  });

  test('the message names the place', () => {
    expect(() => readCellFile(broken((f) => (link(f).command.size = -1)))).toThrow(
      'cell.devices[0].links[0].command.size',
    );
  });

  test('a file of version 1 is read: its scales become exact ratios', () => {
    const old = broken((f) => {
      f['version'] = 1;
      const scales = [{ numerator: 1, denominator: 100, offset: -2.5 }, null];
      link(f).feedback.fields = scales.map((scale, i) => ({
        ...{ id: `x${i}`, name: `x${i}`, type: 'INT', at: i * 16, bits: 16 },
        scale,
      })) as never;
    });
    const [first, second] = readCellFile(old).devices[0]!.links[0]!.feedback.fields;
    expect([first?.scale, second?.scale]).toEqual([{ factor: '1/100', offset: '-2.5' }, null]);
  });

  test('a file of version 3 is read: parameters, lights and limits become part of the description', () => {
    const says = {
      limits: { connections: 4, packets: null },
      parameters: [{ id: 'p1', name: 'ramp', type: 'UINT', bits: 16, limits: { least: '1', most: null } }],
      lights: [{ light: 'module', colour: 'red', pattern: 'steady', means: 'no supply' }],
    };
    const old = broken((f) => {
      f['version'] = 3;
      Object.assign(f.cell.devices[0]!, says);
    });
    const { description } = readCellFile(old).devices[0]!;
    const limits = { minimum: '1', maximum: null };
    expect(description).toMatchObject({ ...says, parameters: [{ ...says.parameters[0], limits }] });
    expect(readCellFile(writeCellFile(readCellFile(old)))).toEqual(readCellFile(old));
  });

  describe('limits that agree', () => {
    const note = 'as the manual of the made-up device says on page 12';
    const labels = [0, 1, 2, 3].map((value) => ({ value, text: `state number ${value}` }));
    /** The test device n times, with so many labelled fields in each. */
    const large = (devices: number, fields: number): Cell => {
      const layout = Array.from({ length: fields }, (_, i) =>
        Field.parse({ id: `f_${i}`, name: `signal_${i}`, type: 'INT', at: i * 16, bits: 16, labels, note }),
      );
      return testCell(
        Array.from({ length: devices }, (_, n) => {
          const device = testDevice({ id: `d${n}`, name: `unit_m${n}` });
          const link = structuredClone(device.links[0]!);
          const own = layout.map((field) => ({ ...field, id: `f${n}${field.id}` }));
          const image = { ...link.feedback, id: `i${n}`, size: 2 * fields, fields: own };
          const command = { ...link.command, id: `c${n}` };
          return { ...device, links: [{ ...link, id: `l${n}`, command, feedback: image }] };
        }),
      );
    };

    test('500 devices with 100 fields each are written and read again', () => {
      const text = writeCellFile(large(500, 100));
      expect(text.length).toBeLessThan(maxCellFileBytes);
      expect(text.split('\n').length).toBeGreaterThanOrEqual(500);
      expect(readCellFile(text).devices).toHaveLength(500);
    });

    test('a cell that could not be written again is neither read nor made by an edit', () => {
      const cell = large(2, 100);
      const long = 'x'.repeat(64);
      const wordy = Array.from({ length: 256 }, (_, value) => ({ value, text: `${long.slice(4)}${value}` }));
      const wordyField = Field.parse({ ...cell.devices[0]!.links[0]!.feedback.fields[0], labels: wordy });
      const many = cell.devices.map((d) => ({
        ...d,
        links: d.links.map((l) => ({
          ...l,
          feedback: {
            ...l.feedback,
            size: 1160,
            fields: Array.from({ length: 580 }, (_, i) => ({
              ...wordyField,
              ...{ id: `${l.id}_${i}`, name: `s${i}`, at: i * 16 },
            })),
          },
        })),
      }));
      const draft = { ...cell, devices: many };
      expect(() => checkedAfter(cell, draft)).toThrow(
        expect.objectContaining({ code: 'cell.tooLarge' }) as Error,
      );
      const file = { format: 'fadenkreuz-cell', version: 5, cell: draft };
      expect(JSON.stringify(file).length).toBeLessThan(maxCellFileBytes);
      expect(() => readCellFile(JSON.stringify(file))).toThrow(
        expect.objectContaining({ code: 'cell.tooLarge' }) as Error,
      );
    });
  });
});
