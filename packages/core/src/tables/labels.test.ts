import { expect, test } from 'vitest';
import { readLabels } from './labels.js';

test.each<[string, [number, string][], string]>([
  [
    '0 = off; 1 = IO-Link',
    [
      [0, 'off'],
      [1, 'IO-Link'],
    ],
    '',
  ],
  [
    '0 = off, 1 = IO-Link',
    [
      [0, 'off'],
      [1, 'IO-Link'],
    ],
    '',
  ],
  [
    '0: off\n1: on',
    [
      [0, 'off'],
      [1, 'on'],
    ],
    '',
  ],
  [
    '0x10 = warm, but not hot; 16#20 = hot',
    [
      [16, 'warm, but not hot'],
      [32, 'hot'],
    ],
    '',
  ],
  [
    '-1 = none; 5 = a = b',
    [
      [-1, 'none'],
      [5, 'a = b'],
    ],
    '',
  ],
  [
    '1 = ; 2 = x;',
    [
      [1, ''],
      [2, 'x'],
    ],
    '',
  ],
  ['off, on, fault', [], 'off, on, fault'],
  ['mode: 0 = off, 1 = on', [[1, 'on']], 'mode: 0 = off'],
  ['', [], ''],
])('%j', (text, labels, unread) =>
  expect(readLabels(text)).toEqual({ labels: labels.map(([value, t]) => ({ value, text: t })), unread }),
);
