import { describe, expect, test } from 'vitest';
import { decodePath, encodePath, logical, logicalOf, type Segment } from './path.js';

const hex = (text: string) => Uint8Array.from(text.trim().split(/\s+/), (b) => parseInt(b, 16));

/** Logical segments in padded form, CIP Vol. 1, C-1.4.2 and its examples (from memory). */
const examples: [string, Segment[], string][] = [
  ['class 6, instance 1', [logical('class', 6), logical('instance', 1)], '20 06 24 01'],
  [
    'class 1, instance 1, attribute 7',
    [logical('class', 1), logical('instance', 1), logical('attribute', 7)],
    '20 01 24 01 30 07',
  ],
  ['16-bit class: a pad byte, then little-endian', [logical('class', 0x0304)], '21 00 04 03'],
  ['16-bit instance', [logical('instance', 0x0301)], '25 00 01 03'],
  ['32-bit instance', [logical('instance', 0x0001_0000)], '26 00 00 00 01 00'],
  [
    'connection points 100 and 101',
    [logical('connectionPoint', 100), logical('connectionPoint', 101)],
    '2c 64 2c 65',
  ],
  ['member 3', [logical('member', 3)], '28 03'],
  [
    'electronic key, format 4, compatible bit set',
    [
      {
        segment: 'key',
        key: { vendor: 65_010, deviceType: 2, productCode: 2117, majorRevision: 0x82, minorRevision: 11 },
      },
    ],
    '34 04 f2 fd 02 00 45 08 82 0b',
  ],
  ['data segment: length in words', [{ segment: 'data', data: hex('01 02 03 04') }], '80 02 01 02 03 04'],
  ['port 1, link 0', [{ segment: 'port', port: 1, link: hex('00') }], '01 00'],
];

describe('paths', () => {
  test.each(examples)('%s', (_says, segments, bytes) => {
    expect(encodePath(segments)).toEqual(hex(bytes));
    expect(decodePath(hex(bytes))).toEqual(segments);
  });

  test('an odd data segment is padded to a whole word', () => {
    expect(encodePath([{ segment: 'data', data: hex('01') }])).toEqual(hex('80 01 01 00'));
  });

  test('what is not known is kept, byte for byte', () => {
    const bytes = hex('20 04 e7 01 02 03');
    expect(decodePath(bytes)).toEqual([
      logical('class', 4),
      { segment: 'unknown', bytes: hex('e7 01 02 03') },
    ]);
    expect(encodePath(decodePath(bytes))).toEqual(bytes);
  });

  test.each(['21', '21 00', '25 00 01', '80 02 01', '34 04 01'])('%s is cut off and refused', (bytes) => {
    expect(() => decodePath(hex(bytes))).toThrow(/needs/);
  });

  test('the first value of a type is found', () => {
    expect(logicalOf(decodePath(hex('20 04 24 97 2c 79 2c ab')), 'connectionPoint')).toBe(0x79);
  });
});
