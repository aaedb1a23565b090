import type { Verdict } from '@fadenkreuz/core';

/** How a line of the scan is marked: shape and word, then colour. */
export const verdictTexts: Record<Verdict, { mark: string; word: string; tone: string }> = {
  right: { mark: '✓', word: 'right', tone: 'text-success' },
  asks: { mark: '◔', word: 'asks still', tone: 'text-warning' },
  'wrong-revision': { mark: '≠', word: 'wrong revision', tone: 'text-error' },
  'wrong-identity': { mark: '≠', word: 'wrong identity', tone: 'text-error' },
  'two-at-address': { mark: '2×', word: 'two at one address', tone: 'text-error' },
  'factory-address': { mark: '⌂', word: 'factory address', tone: 'text-error' },
  'other-address': { mark: '↷', word: 'another address', tone: 'text-error' },
  'not-asked': { mark: '·', word: 'not asked', tone: 'text-faint' },
  missing: { mark: '○', word: 'missing', tone: 'text-error' },
  'not-planned': { mark: '+', word: 'not planned', tone: 'text-warning' },
};
