import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { describe, expect, test } from 'vitest';
import { readCellFile } from '../cell/cellFile.js';
import { testCell, testDevice } from '../cell/testCell.js';
import { DriveTrain } from '../motion/driveTrain.js';
import { figuresOf } from '../motion/startUp.js';
import { SafetyLogic } from '../safety/safetyLogic.js';
import { driveSheets } from './driveSheets.js';
import { table } from './markdown.js';
import { papers } from './papers.js';
import { safetySheets } from './safetySheets.js';
import { statusOnly } from './safetyNotes.js';

const cell = readCellFile(JSON.stringify(demo));
const rowsOf = (text: string) => text.split('\n').filter((line) => line.startsWith('|'));

describe('drive trains', () => {
  const train = DriveTrain.parse({
    motor: {
      model: 'Z|9',
      type: 'synchronous',
      ratedTorque: 2,
      ratedSpeed: 3000,
      peakTorque: 6,
      inertia: 1.2,
    },
    ...{ encoder: { type: 'incremental', increments: '8192' }, gear: { motor: '3' } },
    ...{ output: { is: 'rack', teeth: '25', module: '2' }, load: { mass: 30, incline: 90 } },
    ...{ quickStop: 3000, moves: [{ distance: 400, velocity: 300, acceleration: 900, deceleration: 900 }] },
  });
  const own = testCell([{ ...testDevice(), name: 'sledge_z4', train }]);
  test('of a device that is not in the demo: parts, moves, figures, what is wrong', () => {
    const text = driveSheets(own);
    expect(text).toContain('## sledge_z4');
    expect(text).toContain('| motor | Z\\|9, synchronous |');
    expect(text).toContain('| the shaft drives | rack, teeth 25, module 2 |');
    expect(text).toMatch(/\| 1 \| 400 \| 300 \| 900 \| 900 \| none \| 0 \| 0 \|/);
    const { cycle } = figuresOf(train)!;
    expect(text).toContain(`| torque, at most | ${Number(cycle.peakTorque.toPrecision(4))} N·m |`);
    expect(text).toMatch(/there is no brake: it falls/);
    // Each row of a table has as many bars as its head.
    const bars = (line: string) => line.replaceAll('\\|', '').split('|').length;
    for (const part of text.split('\n\n').filter((p) => p.startsWith('|')))
      expect(new Set(rowsOf(part).map(bars)).size).toBe(1);
  });
  test('none, and it does not leave', () => {
    expect(driveSheets(testCell([testDevice()]))).toBe('');
    expect(driveSheets(cell)).toContain('rack_lift_a1');
  });
});

describe('safety logic', () => {
  test('says status only, whether it is approved, and what each bit means', () => {
    const text = safetySheets(cell);
    expect(text).toContain(statusOnly);
    expect(text).toContain('Approved by Talgrund maintenance');
    expect(text).toContain('| curtain_ok |  | 0 | 1 | no beam of gate_curtain is interrupted |');
    expect(safetySheets(testCell([testDevice()]))).toBe('');
  });
  test('an approval of another content is none', () => {
    const devices = cell.devices.map((d) =>
      d.safety ? { ...d, safety: SafetyLogic.parse({ ...d.safety, blocks: d.safety.blocks.slice(1) }) } : d,
    );
    expect(safetySheets({ ...cell, devices })).toContain('Not approved.');
  });
});

test('all papers of the demo say something, under names of their own', () => {
  expect(new Set(papers.map(({ file }) => file(cell))).size).toBe(papers.length);
  // Nothing is planned of its parameters.
  const empty = papers.filter(({ write }) => write(cell).length < 100).map(({ id }) => id);
  expect(empty).toEqual(['parameters']);
});

test('a table of Markdown keeps its bars and its lines', () => {
  expect(table(['a'], [['x | y'], ['one\n two']])).toBe('| a |\n| --- |\n| x \\| y |\n| one two |');
});
