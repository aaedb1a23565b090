import type { Fault } from '@fadenkreuz/core';
import { expect, test } from 'vitest';
import { noTrouble } from '../protocols/driver.js';
import { demoDevice } from '../testBench.js';
import { soundCable } from '../wire/cable.js';
import { InjectedFaults } from './injectedFaults.js';

const { identity, description } = demoDevice('climate_io_u1', '10.99.40.71');
const { points } = description;
const withFaults = (...list: Fault[]): InjectedFaults => {
  const faults = new InjectedFaults();
  for (const fault of list) faults.inject(fault);
  return faults;
};

test('without a fault everything is as planned', () => {
  const faults = withFaults();
  expect(faults.cable).toEqual(soundCable);
  expect(faults.trouble).toEqual(noTrouble);
  expect(faults.identity(identity)).toBe(identity);
  expect(faults.offered(points)).toBe(points);
});

test.each<[Fault, Partial<InjectedFaults['cable']>]>([
  [{ fault: 'cable-pulled' }, { pulled: true }],
  [{ fault: 'packets-lost', share: 0.2 }, { lost: 0.2 }],
  [{ fault: 'packets-doubled', share: 0.3 }, { doubled: 0.3 }],
  [{ fault: 'packets-reordered', share: 0.4 }, { reordered: 0.4 }],
  [
    { fault: 'packets-delayed', share: 0.5, ms: 30 },
    { delayed: 0.5, delayMs: 30 },
  ],
])('the cable: %o', (fault, trouble) => {
  const faults = withFaults(fault);
  expect(faults.cable).toEqual({ ...soundCable, ...trouble });
  expect(faults.trouble).toEqual(noTrouble);
});

test.each<[Fault, Partial<InjectedFaults['trouble']>]>([
  [{ fault: 'slow', ms: 400 }, { slowMs: 400 }],
  [{ fault: 'busy' }, { busy: true }],
  [{ fault: 'frozen' }, { frozen: true }],
  [{ fault: 'stolen' }, { foreignOwner: true }],
  [{ fault: 'duplicate-address' }, { twin: true }],
])('the device: %o', (fault, trouble) => {
  const faults = withFaults(fault);
  expect(faults.trouble).toEqual({ ...noTrouble, ...trouble });
  expect(faults.cable).toEqual(soundCable);
});

test('a wrong device says so in its identity: another product, or another revision', () => {
  const other = withFaults({ fault: 'wrong-device', differs: 'product' }).identity(identity);
  expect(other.productCode).not.toBe(identity.productCode);
  const older = withFaults({ fault: 'wrong-device', differs: 'revision' }).identity(identity);
  expect(older.productCode).toBe(identity.productCode);
  expect(older.majorRevision).not.toBe(identity.majorRevision);
});

test('only the first point of a direction is resized, never below nothing', () => {
  const size = (list: readonly { use: string; size: number }[], use: string) =>
    list.filter((s) => s.use === use).map((s) => s.size);
  const grown = withFaults({ fault: 'assembly-resized', direction: 'feedback', by: 4 });
  expect(size(grown.offered(points), 'feedback')).toEqual([16]);
  expect(size(grown.offered(points), 'command')).toEqual([8]);
  const gone = withFaults({ fault: 'assembly-resized', direction: 'command', by: -400 });
  expect(size(gone.offered(points), 'command')).toEqual([0]);
});

test('a value beyond its range: the named field alone', () => {
  const spec = points.find((s) => s.use === 'feedback')!;
  const field = spec.fields!.find((f) => f.bits === 16)!;
  const image = new Uint8Array(spec.size);
  withFaults({ fault: 'out-of-range', field: field.name }).overrange(spec, image);
  expect(image.some((b) => b !== 0)).toBe(true);
  const minimum = field.type === 'INT' ? 0x7fff : 0xffff;
  const at = image.findIndex((b) => b !== 0);
  expect(image[at]! | (image[at + 1]! << 8)).toBe(minimum);
  image.fill(0, at, at + 2);
  expect(image.every((b) => b === 0)).toBe(true);
});

test('what is cleared is gone, once', () => {
  const faults = withFaults({ fault: 'busy' }, { fault: 'frozen' });
  expect(faults.clear('busy')).toEqual({ fault: 'busy' });
  expect(faults.clear('busy')).toBeUndefined();
  expect(faults.all).toEqual([{ fault: 'frozen' }]);
});
