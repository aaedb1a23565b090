import { expect, test } from 'vitest';
import { makerOfMac } from './macRegistry.js';

// IEEE 802.3: the block 00-00-00 was the first to be given out, and stands in the registry since.
test('a block of the registry has its owner, a local address has none', () => {
  expect(makerOfMac('00-00-00-12-34-56')).toMatch(/\S/);
  expect(makerOfMac('00:00:00:12:34:56')).toBe(makerOfMac('00-00-00-ff-ff-ff'));
  expect(makerOfMac('02-FA-00-00-12-34')).toBeUndefined();
  expect(makerOfMac('')).toBeUndefined();
});
