import { describe, expect, test } from 'vitest';
import { applyEdit } from '../cell/edits/edit.js';
import { testCell, testDevice } from '../cell/testCell.js';
import { readCellFile, writeCellFile } from '../cell/cellFile.js';
import { ParameterSet } from '../cell/parameterSet.js';
import { Parameter } from '../devices/parameter.js';
import { stepsLeft } from './writePlan.js';
import { placedSet, readSetText, setText, setWrites } from './ownSets.js';

const parameter = (code: string, name: string, more: object = {}) =>
  Parameter.parse({
    ...{ id: code.replaceAll('.', '-'), code, name, type: 'UINT', bits: 16 },
    place: { way: 'register', table: 'holding', start: Number(code.replace('.', '')) },
    ...more,
  });
/** A weigher of a made-up maker, whose adjustment is behind a key. */
const scale = testDevice(
  { name: 'hopper_w9', kind: 'weigher' },
  {
    parameters: [
      parameter('9.1', 'Key', { retained: 'never' }),
      parameter('2.1', 'Zero point', { access: 'write', labels: [{ value: 1, text: 'take now' }] }),
      parameter('2.2', 'Span weight', { unit: 'kg', scale: { factor: '1/10', offset: '0' } }),
      parameter('2.3', 'Shown weight', { access: 'read' }),
    ],
  },
);
const text = ['9.1 = 4711 // opens', '', 'zero point = take now', 'Span weight = 20.5', '9.1 = 0'].join('\n');
const set = ParameterSet.parse({ id: 's1', title: 'Adjust', steps: readSetText(text) });

describe('a set of one’s own', () => {
  test('unlock, zero, span, lock: a sequence whose key comes twice, by code or name', () => {
    const placed = placedSet(set, scale)!;
    expect(placed.sequence).toBe(true);
    expect(setWrites(placed)).toEqual([
      { parameter: '9-1', bytes: '12 67', why: 'value' },
      { parameter: '2-1', bytes: '00 01', why: 'value' },
      { parameter: '2-2', bytes: '00 CD', why: 'value' },
      { parameter: '9-1', bytes: '00 00', why: 'value' },
    ]);
  });
  test('cut off in the middle, its key is written again before what is missing', () => {
    const steps = setWrites(placedSet(set, scale)!);
    const ended = ['written', 'written', 'unknown', 'not tried'] as const;
    const lines = steps.map((step, i) => ({ ...step, outcome: ended[i]! }));
    expect(stepsLeft(lines).map(({ parameter, bytes }) => [parameter, bytes])).toEqual([
      ...[
        ['9-1', '12 67'],
        ['2-2', '00 CD'],
        ['9-1', '00 00'],
      ],
    ]);
    expect(stepsLeft(lines.map((line) => ({ ...line, outcome: 'written' as const })))).toEqual([]);
  });
  test('goes into text and back', () => {
    expect(readSetText(setText(set))).toEqual(set.steps);
  });
  test.each([
    ['2.2', /Line 1/],
    ['2.2 = 5\n= 7', /Line 2/],
    ['2.2 =', /Line 1/],
  ])('says which line is no step: %j', (lines, says) => {
    expect(() => readSetText(lines)).toThrow(says);
  });
  test('is not for a device that lacks a parameter, or cannot be written it', () => {
    expect(placedSet(set, testDevice())).toBeUndefined();
    const shown = { ...set, steps: [{ parameter: 'Shown weight', to: '1' }] };
    expect(placedSet(shown, scale)).toBeUndefined();
    expect(placedSet({ ...set, steps: [{ parameter: 'SPAN WEIGHT', to: '3' }] }, scale)?.sequence).toBe(
      false,
    );
  });
  test('a value that a parameter cannot hold is said, and nothing is written', () => {
    const wrong = { ...set, steps: [{ parameter: '2.2', to: 'heavy' }] };
    expect(() => setWrites(placedSet(wrong, scale)!)).toThrow(/heavy/);
  });
  test('is kept with the cell, and leaves with its file', () => {
    const cell = applyEdit(testCell([scale]), { edit: 'cell.set', set: { sets: [set] } });
    expect(readCellFile(writeCellFile(cell)).sets).toEqual([set]);
    const twice = { edit: 'cell.set' as const, set: { sets: [set, set] } };
    expect(() => applyEdit(cell, twice)).toThrow(/second time/);
  });
});
