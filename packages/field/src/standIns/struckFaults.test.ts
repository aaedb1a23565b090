import type { Fault } from '@fadenkreuz/core';
import { behaviours } from '@fadenkreuz/core/behaviours';
import { expect, test } from 'vitest';
import { soundTarget } from '../ethernetip/target.js';
import { soundCable } from '../wire/cable.js';
import { StruckFaults } from './struckFaults.js';

const climate = behaviours.climateIo;
const withFaults = (...list: Fault[]): StruckFaults => {
  const faults = new StruckFaults();
  for (const fault of list) faults.strike(fault);
  return faults;
};

test('without a fault everything is as planned', () => {
  const faults = withFaults();
  expect(faults.cable).toEqual(soundCable);
  expect(faults.target).toEqual(soundTarget);
  expect(faults.identity(climate.identity)).toBe(climate.identity);
  expect(faults.offered(climate.assemblies)).toBe(climate.assemblies);
});

test.each<[Fault, Partial<StruckFaults['cable']>]>([
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
  expect(faults.target).toEqual(soundTarget);
});

test.each<[Fault, Partial<StruckFaults['target']>]>([
  [{ fault: 'slow', ms: 400 }, { slowMs: 400 }],
  [{ fault: 'busy' }, { busy: true }],
  [{ fault: 'frozen' }, { frozen: true }],
  [{ fault: 'stolen' }, { foreignOwner: true }],
  [{ fault: 'duplicate-address' }, { twin: true }],
])('the target: %o', (fault, trouble) => {
  const faults = withFaults(fault);
  expect(faults.target).toEqual({ ...soundTarget, ...trouble });
  expect(faults.cable).toEqual(soundCable);
});

test('a wrong device says so in its identity: another product, or another revision', () => {
  const { identity } = climate;
  const other = withFaults({ fault: 'wrong-device', differs: 'product' }).identity(identity);
  expect(other.productCode).not.toBe(identity.productCode);
  const older = withFaults({ fault: 'wrong-device', differs: 'revision' }).identity(identity);
  expect(older.productCode).toBe(identity.productCode);
  expect(older.majorRevision).not.toBe(identity.majorRevision);
});

test('only the first assembly of a direction is resized, never below nothing', () => {
  const size = (list: readonly { use: string; size: number }[], use: string) =>
    list.filter((s) => s.use === use).map((s) => s.size);
  const grown = withFaults({ fault: 'assembly-resized', direction: 'feedback', by: 4 });
  expect(size(grown.offered(climate.assemblies), 'feedback')).toEqual([16]);
  expect(size(grown.offered(climate.assemblies), 'command')).toEqual([8]);
  const gone = withFaults({ fault: 'assembly-resized', direction: 'command', by: -400 });
  expect(size(gone.offered(climate.assemblies), 'command')).toEqual([0]);
});

test('a value beyond its range: the named field alone', () => {
  const spec = climate.assemblies.find((s) => s.use === 'feedback')!;
  const field = spec.fields.find((f) => f.bits === 16)!;
  const image = new Uint8Array(spec.size);
  withFaults({ fault: 'out-of-range', field: field.name }).overrange(spec, image);
  expect(image.some((b) => b !== 0)).toBe(true);
  const least = field.type === 'INT' ? 0x7fff : 0xffff;
  const at = image.findIndex((b) => b !== 0);
  expect(image[at]! | (image[at + 1]! << 8)).toBe(least);
  image.fill(0, at, at + 2);
  expect(image.every((b) => b === 0)).toBe(true);
});

test('what is mended is gone, once', () => {
  const faults = withFaults({ fault: 'busy' }, { fault: 'frozen' });
  expect(faults.mend('busy')).toEqual({ fault: 'busy' });
  expect(faults.mend('busy')).toBeUndefined();
  expect(faults.all).toEqual([{ fault: 'frozen' }]);
});
