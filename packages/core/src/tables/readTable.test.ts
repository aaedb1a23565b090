import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Field, type ByteOrder } from '../layout/field.js';
import { testImage } from '../cell/testCell.js';
import { addressEntry, bitEntry, ratioEntry, typeEntry } from './cells.js';
import { fieldTable } from './fieldTable.js';
import { tableCsv } from './csv.js';
import { guessReading, tableCells, withColumns, type TableReading } from './guessReading.js';
import { readTable } from './readTable.js';

const ids = () => {
  let n = 0;
  return () => `n${(n += 1)}`;
};
const image = (size: number, order: ByteOrder | null = null) => ({ size, order, groups: [] });
function read(text: string, size = 40, change: Partial<TableReading> = {}, order: ByteOrder | null = null) {
  const rows = tableCells(text);
  const reading = { ...guessReading(rows, image(size, order)), ...change };
  return { ...readTable(rows, reading, image(size, order), ids()), reading };
}
const brief = (fields: Field[]) =>
  fields.map((f) => `${f.name} ${f.type} ${f.at >> 3}.${f.at & 7} ${f.bits}`);

test('a column that is chosen to be the addresses is counted as its heading and its numbers say', () => {
  const rows = tableCells('Wo (Wort)\tName\n41\tSpeed\n42\tCurrent');
  const guessed = guessReading(rows, image(8));
  expect(guessed).toMatchObject({ columns: [null, 'name'], reason: 'There is no address column.' });
  const chosen = withColumns(rows, { ...guessed, lengthUnit: 'bit' }, ['address', 'name'], image(8));
  expect(chosen).toMatchObject({
    base: 41,
    lengthUnit: 'bit',
    reason: expect.stringContaining('41') as string,
  });
  // What was corrected by hand stays when another column changes.
  const corrected = { ...chosen, base: 40, addressUnit: 'word' as const, reason: '' };
  expect(withColumns(rows, corrected, ['address', null], image(8))).toMatchObject({
    ...{ base: 40, addressUnit: 'word', reason: '' },
  });
});

describe('single entries, as manuals write them (common practice, no source)', () => {
  test.each([
    ['40', { unit: 40, bit: undefined }],
    ['40.3', { unit: 40, bit: 3 }],
    ['W40', { unit: 40, bit: undefined }],
    ['byte 40 bit 3', { unit: 40, bit: 3 }],
    ['40-43', { unit: 40, bit: undefined, lastUnit: 43 }],
    ['5.0..5.3', { unit: 5, bit: 0, lastUnit: 5, lastBit: 3 }],
    ['5.0-3', { unit: 5, bit: 0, lastUnit: 5, lastBit: 3 }],
    ['0x28', { unit: 40, bit: undefined }],
    ['16#28', { unit: 40, bit: undefined }],
    ['hello', undefined],
    ['', undefined],
  ])('address %s', (text, entry) => expect(addressEntry(text)).toEqual(entry));

  test.each([
    ['uint16', { type: 'UINT' }],
    ['INT32', { type: 'DINT' }],
    ['Float', { type: 'REAL' }],
    ['STRING[12]', { type: 'STRING', count: 12 }],
    ['BITS(3)', { type: 'BITS', count: 3 }],
    ['ARRAY [0..3] OF INT', { type: 'INT', elements: 4 }],
    ['BCD4', { type: 'BCD', count: 4 }],
    ['bit', { type: 'BOOL' }],
    ['widget', undefined],
  ])('type %s', (text, entry) => expect(typeEntry(text)).toEqual(entry));

  test.each([
    ['0.01', '0.01'],
    ['0,1', '0.1'],
    ['1/100', '1/100'],
    ['×0.1', '0.1'],
    ['10^-2', '1/100'],
    ['1e3', '1000'],
    ['about 3', undefined],
    ['1/0', undefined],
  ])('factor %s', (text, ratio) => expect(ratioEntry(text)).toBe(ratio));

  test.each([
    ['3', { first: 3, last: 3 }],
    ['0-7', { first: 0, last: 7 }],
    ['7..4', { first: 4, last: 7 }],
    ['bit 2', { first: 2, last: 2 }],
    ['x', undefined],
  ])('bit %s', (text, entry) => expect(bitEntry(text)).toEqual(entry));
});

describe('a table of a manual', () => {
  const table = `Byte\tBit\tSignal\tType\tUnit\tResolution
1\t0\tready\tBOOL
1\t1-3\tmode\t
2\t\tstate\tBYTE
3\t\tspeed\tINT\tHz\t0,01
5\t\ttotal\tUDINT`;

  test('columns by their headings, base 1 because the least address is 1', () => {
    const { fields, bad, reading } = read(table);
    expect(reading).toMatchObject({ headed: true, base: 1, addressUnit: 'byte' });
    expect(reading.columns).toEqual(['address', 'bit', 'name', 'type', 'unit', 'factor']);
    expect(bad).toEqual([]);
    expect(brief(fields)).toEqual([
      'ready BOOL 0.0 1',
      'mode BITS 0.1 3',
      'state BYTE 1.0 8',
      'speed INT 2.0 16',
      'total UDINT 4.0 32',
    ]);
    expect(fields[3]).toMatchObject({ unit: 'Hz', scale: { factor: '0.01', offset: '0' } });
  });

  test('commas and semicolons, no headings, columns by what is in them', () => {
    const { fields, reading } = read('0;2;level;UINT;mm\n2;2;flow;INT;l/min\n4;4;sum;UDINT;l');
    expect(reading.headed).toBe(false);
    expect(brief(fields)).toEqual(['level UINT 0.0 16', 'flow INT 2.0 16', 'sum UDINT 4.0 32']);
    expect(read('0,level,UINT\n2,flow,INT').fields).toHaveLength(2);
  });

  test('words of 40 and up: the base is the least address when nothing else fits', () => {
    const { fields, reading } = read('Word,Name,Type\n40,a,INT\n41,b,INT\n42,c,DINT', 8);
    expect(reading).toMatchObject({ addressUnit: 'word', base: 40 });
    expect(brief(fields)).toEqual(['a INT 0.0 16', 'b INT 2.0 16', 'c DINT 4.0 32']);
  });

  test('bits of a word that comes high byte first lie where they really are', () => {
    const { fields } = read('Word,Bit,Name,Type\n0,0,low,BOOL\n0,15,high,BOOL\n0,6-9,mid,BITS', 4, {}, 'big');
    expect(brief(fields)).toEqual(['low BOOL 1.0 1', 'high BOOL 0.7 1', 'mid BITS 0.6 4']);
  });

  test('lengths count bytes, bits or words, as the types tell', () => {
    expect(read('Byte,Length,Name,Type\n0,2,a,INT\n2,4,b,DINT').reading.lengthUnit).toBe('byte');
    expect(read('Byte,Length,Name,Type\n0,16,a,INT\n2,32,b,DINT').reading.lengthUnit).toBe('bit');
    expect(read('Byte,Length,Name,Type\n0,1,a,INT\n2,2,b,DINT').reading.lengthUnit).toBe('word');
    expect(brief(read('Byte,Length,Name\n0,2,a\n2,3,b').fields)).toEqual(['a UINT 0.0 16', 'b BITS 2.0 24']);
  });

  test('points from 1', () =>
    expect(brief(read('Point,Name\n1,a\n12,b').fields)).toEqual(['a BOOL 0.0 1', 'b BOOL 1.3 1']));

  test.each(['Element', 'Array element', 'Integer', 'Element no'])('%s counts words', (heading) => {
    const { fields, reading } = read(`Name;${heading};Length (bits)\nstate;0;16\nspeeds;2;3x16\nlast;5;16`);
    expect([reading.addressUnit, reading.lengthUnit]).toEqual(['word', 'bit']);
    expect(brief(fields)).toEqual(['state UINT 0.0 16', 'speeds UINT 4.0 16', 'last UINT 10.0 16']);
    expect(fields[1]!.array).toEqual({ count: 3, stride: 16 });
  });

  test('what is not understood is said: entries of rows that are taken, and whole columns', () => {
    const { fields, bad, unread, unused } = read(
      'Name;Byte;Type;Byte order;Min;Normally closed;Colour;Blank\na;0;INT;middle;low;perhaps;red;\nb;2;INT;big;-5;no;blue;',
    );
    expect([fields.length, bad.length]).toEqual([2, 0]);
    expect(unread.map((u) => [u.row, u.text, u.reason])).toEqual([
      [2, 'a', '"middle" was not understood as byte order'],
      [2, 'a', '"low" was not understood as minimum'],
      [2, 'a', '"perhaps" was not understood as normally closed'],
    ]);
    expect(unused).toEqual(['Colour']);
  });

  test('rows that cannot be taken are listed with their number and the reason', () => {
    const { fields, bad } = read(
      `Byte,Bit,Name,Type,Length,Sign
0,,good,INT,,
,,no place,INT,,
2,,,INT,,
4,,odd,WIDGET,,
6,9,bit nine,BOOL,,
8,,wrong length,INT,3,
10,,magnitude,UINT,,nobody
-,,x,INT,,`,
      40,
      { base: 0 },
    );
    expect(brief(fields)).toEqual(['good INT 0.0 16']);
    expect(bad.map((b) => [b.row, b.reason])).toEqual([
      [3, 'it has no address'],
      [4, 'it has no name'],
      [5, '"WIDGET" is no known type'],
      [6, 'a byte has no bit 9'],
      [7, 'INT has 16 bits, but the length says 24'],
      [9, '"-" is no address'],
      [8, 'its sign should come from nobody, which is no field of the table'],
    ]);
  });

  test('an address before the base is a bad row, never a negative place', () => {
    const { bad } = read('Byte,Name,Type\n0,a,INT\n2,b,INT', 40, { base: 1 });
    expect(bad.map((b) => b.row)).toEqual([2]);
  });

  test('hostile text: nothing but rows and reasons', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400 }), (text) => {
        const { fields, bad } = read(text);
        expect(fields.length + bad.length).toBeLessThanOrEqual(text.split('\n').length + 1);
      }),
    );
    expect(read('x,'.repeat(50_000)).fields).toEqual([]);
  });
});

describe('out and in again', () => {
  const full = testImage({
    size: 60,
    order: 'big',
    groups: [
      { id: 'gp', name: 'port', count: 2, stride: 128, parent: null, first: 0 },
      { id: 'gc', name: 'channel', count: 2, stride: 32, parent: 'gp', first: 1 },
    ],
    fields: [
      Field.parse({
        id: 'a',
        name: '=SUM(1)',
        type: 'INT',
        at: 0,
        bits: 16,
        scale: { factor: '5/9', offset: '-160/9' },
        unit: 'Cel',
        limits: { minimum: '-10', maximum: null },
        specials: [{ value: 32767, means: 'overrange' }],
        order: 'little',
        note: 'a, "b"; c',
      }),
      Field.parse({
        id: 'b',
        name: 'flags',
        type: 'WORD',
        at: 16,
        bits: 16,
        bitLabels: [{ bit: 3, text: 'late = bad' }],
        role: { is: 'status word' },
        bitRoles: [{ bit: 3, role: { is: 'input', number: 2 } }],
        sourceName: 'Flags (16 bit)',
        normallyClosed: true,
        safety: true,
        radix: 'hex',
      }),
      Field.parse({
        id: 'c',
        name: 'mass',
        type: 'UDINT',
        at: 32,
        bits: 32,
        sign: { way: 'bit', field: 'b', bit: 3, inverted: true },
        decimals: { way: 'field', field: 'e' },
      }),
      Field.parse({
        id: 'd',
        name: 'text',
        type: 'STRING',
        at: 64,
        bits: 96,
        text: { prefix: 8, encoding: 'utf-8', pad: 32 },
      }),
      Field.parse({
        id: 'e',
        name: 'places',
        type: 'USINT',
        at: 160,
        bits: 8,
        sign: { way: 'offset' },
        decimals: { way: 'parameter', parameter: 'P 12', places: 2 },
      }),
      Field.parse({
        id: 'f',
        name: 'level',
        type: 'UINT',
        at: 170 - 2,
        bits: 16,
        group: 'gc',
        array: { count: 1, stride: 16 },
        labels: [
          { value: 0, text: 'off' },
          { value: 1, text: 'on' },
        ],
      }),
      Field.parse({
        id: 'g',
        name: 'bits',
        type: 'BITS',
        at: 187,
        bits: 5,
        decimals: { way: 'fixed', places: 1 },
      }),
    ],
  });

  /** The image's fields with ids replaced by names, so that they can be compared. */
  const plain = (fields: Field[], groups: { id: string; name: string }[]) => {
    const nameOf = (id: string | null) => [...fields, ...groups].find((x) => x.id === id)?.name ?? null;
    return fields
      .map((f) => ({
        ...f,
        id: '',
        group: nameOf(f.group),
        sign: f.sign?.way === 'bit' ? { ...f.sign, field: nameOf(f.sign.field) } : f.sign,
        decimals:
          f.decimals?.way === 'field' ? { ...f.decimals, field: nameOf(f.decimals.field) } : f.decimals,
      }))
      .sort((a, b) => a.at - b.at);
  };

  test('every entry of every field comes back through CSV', () => {
    const rows = tableCells(tableCsv(fieldTable(full)));
    const blank = testImage({ size: 60, order: 'big' });
    const reading = guessReading(rows, blank);
    expect(reading).toMatchObject({ headed: true, base: 0, addressUnit: 'byte', lengthUnit: 'bit' });
    const { fields, groups, bad } = readTable(rows, reading, blank, ids());
    expect(bad).toEqual([]);
    expect(plain(fields, groups)).toEqual(plain(full.fields, full.groups));
    expect(groups.map(({ name, count, stride, first }) => [name, count, stride, first])).toEqual([
      ['port', 2, 128, 0],
      ['channel', 2, 32, 1],
    ]);
  });

  test('a name that looks like a formula is marked for the spreadsheet, and read back without the mark', () => {
    expect(tableCsv(fieldTable(full))).toContain("'=SUM(1)");
    expect(tableCsv([['-10', '-a']])).toBe(`"-10","'-a"\r\n`);
  });
});
