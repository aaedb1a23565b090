import { describe, expect, test } from 'vitest';
import { readManualLine } from './manualLine.js';

const read = (text: string) => {
  const { doubts, ...line } = readManualLine(text)!;
  return { line, codes: doubts.map(({ code }) => code.replace('manualLine.', '')).sort() };
};
const point = (instance: number, bytes?: number) => ({ instance, bytes });

describe('a line of a manual', () => {
  // As manuals and other programs write them; common practice, no source.
  test.each<[string, ReturnType<typeof read>]>([
    [
      'input 131 size 7, output 141 size 6, configuration 151 size 0, 32-bit',
      {
        line: { feedback: point(131, 28), command: point(141, 24), configuration: point(151, 0) },
        codes: ['whoseInput'],
      },
    ],
    [
      'T→O 101 (16 bytes), O→T 102 (8 bytes), RPI 10 ms',
      { line: { feedback: point(101, 16), command: point(102, 8), rpiMs: 10 }, codes: [] },
    ],
    [
      'Produced assembly instance 0x64: 12 words; consumed assembly instance 0x96: 4 words',
      { line: { feedback: point(100, 24), command: point(150, 8) }, codes: [] },
    ],
    [
      'Eingang 110/12 Ausgang 120/8',
      { line: { feedback: point(110, 12), command: point(120, 8) }, codes: ['noUnit', 'whoseInput'] },
    ],
    [
      'in 70 length 4 bytes out 20 length 4 bytes config 1 length 10',
      {
        line: { feedback: point(70, 4), command: point(20, 4), configuration: point(1, 10) },
        codes: ['configurationData', 'whoseInput'],
      },
    ],
    [
      'Input Assembly (T->O): 65h, 56 bits, Output Assembly (O->T): 66h, 16 bits',
      { line: { feedback: point(101, 7), command: point(102, 2) }, codes: [] },
    ],
    ['output 141 size 6 bytes', { line: { command: point(141, 6) }, codes: ['sideMissing', 'whoseInput'] }],
    [
      'produced 5, consumed 5, red wire',
      {
        line: { feedback: point(5), command: point(5) },
        codes: ['noSize', 'noSize', 'sameInstance', 'unread'],
      },
    ],
    [
      'T->O 7 size 2000 32-bit O->T 8 size 1',
      { line: { feedback: point(7, 8000), command: point(8, 4) }, codes: ['tooLarge'] },
    ],
  ])('%s', (text, wanted) => expect(read(text)).toEqual(wanted));

  test.each(['', 'hello', 'size 7', '131 7 141 6', 'input', 'a'.repeat(2000)])('%s names nothing', (text) =>
    expect(readManualLine(text)).toBeUndefined(),
  );
});
