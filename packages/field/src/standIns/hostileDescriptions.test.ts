import { check, Device, type Cell } from '@fadenkreuz/core';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { climateCell } from '../testBench.js';
import { bitsFirst, ethernetIpLink, handMade, kindsByRoles, modbusLink, numbersFirst } from './testKinds.js';

/** What may stand where something else was: mostly something of its kind, sometimes anything. */
const numbers = [0, 1, -1, 2, 3, 7, 8, 16, 31, 255, 700, 1500, 3000, 65_535, 65_536, 2 ** 31, 2 ** 53, 0.5];
const texts = [
  '',
  'x',
  '1/0',
  '1/3',
  '-7',
  'Hz',
  'BOOL',
  'INT',
  'REAL',
  'STRING',
  'big',
  'little',
  'input',
  'holding',
  'coil',
];
const anything: unknown[] = [null, [], {}, true, 0, ''];
function strange(old: unknown, n: number): unknown {
  const of =
    n % 10 === 0
      ? anything
      : { number: numbers, string: texts, boolean: [true, false] }[typeof old as 'number'];
  return (of ?? anything)[n % (of ?? anything).length];
}

/** The ways to all single entries of a value. */
function waysOf(value: unknown, way: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [way];
  const inner = Array.isArray(value) ? [...value.entries()] : Object.entries(value);
  return inner.flatMap(([key, entry]) => waysOf(entry, [...way, key]));
}

/** The value with another one at a way; undefined takes the entry away. */
function changedAt(value: unknown, [key, ...rest]: (string | number)[], to: unknown): unknown {
  if (key === undefined) return to;
  if (Array.isArray(value))
    return value
      .map((entry, i) => (i === key ? changedAt(entry, rest, to) : (entry as unknown)))
      .filter((entry) => entry !== undefined);
  const entries = Object.entries(value as object).map(([name, entry]) => [
    name,
    name === key ? changedAt(entry, rest, to) : (entry as unknown),
  ]);
  return Object.fromEntries(entries.filter(([, entry]) => entry !== undefined)) as unknown;
}

const bases = kindsByRoles.flatMap(({ kind, commands, answers }, i) => [
  handMade(kind, '10.99.45', 10 + i, ethernetIpLink([bitsFirst(commands), bitsFirst(answers)])),
  handMade(kind, '10.99.45', 60 + i, modbusLink([numbersFirst(commands), numbersFirst(answers)])),
]);

/** A device with up to three entries of its description and layout that are not as they were. */
const hostile = fc
  .tuple(fc.constantFrom(...bases), fc.array(fc.tuple(fc.nat(), fc.nat()), { minLength: 1, maxLength: 2 }))
  .map(([base, changes]) => {
    let device: unknown = base;
    for (const [n, to] of changes) {
      const ways = waysOf(device).filter(
        ([part]) => part === 'links' || part === 'description' || part === 'kind',
      );
      const way = ways[n % ways.length]!;
      const old = way.reduce<unknown>((value, key) => (value as Record<string, unknown>)[key], device);
      device = changedAt(device, way, to % 25 === 0 ? undefined : strange(old, to));
    }
    return device;
  });

/** Seeded: `SEEDED=20` has twenty times as many (packages/core/src/testRuns.ts). */
const count = 250 * Number(process.env['SEEDED'] ?? 1);

test(`${count} descriptions that are wrong somewhere: refused, or standing, or saying at their device why not`, async () => {
  const tally = { refused: 0, stands: 0, says: 0 };
  const drafts = fc.sample(hostile, { numRuns: count, seed: 1919 });
  for (let from = 0; from < drafts.length; from += 50) {
    const devices = drafts.slice(from, from + 50).flatMap((draft, i): Device[] => {
      const { success, data } = Device.safeParse(draft);
      if (!success) {
        tally.refused += 1;
        return [];
      }
      // Every one at an address of its own, and with parts that are nobody else's.
      const own = JSON.parse(
        JSON.stringify({ ...data, address: `10.99.45.${10 + i}` }),
        (key, value: unknown) => (key === 'id' ? `${String(value)}-${i}` : value),
      ) as unknown;
      const parsed = Device.safeParse(own);
      return parsed.success ? [parsed.data] : [];
    });
    const cell: Cell = {
      ...climateCell(),
      controller: { ...climateCell().controller, address: '10.99.45.1' },
      network: { ...climateCell().network, subnet: '10.99.45.0/24' },
      devices,
    };
    expect(() => check(cell)).not.toThrow();
    const bench = new Bench(cell);
    await bench.start();
    // Some steps, in which whatever acts does, and links are tried.
    await new Promise((resolve) => setTimeout(resolve, 120));
    for (const device of devices) {
      const standIn = bench.standInOf(device.id);
      if (standIn) tally.stands += 1;
      else {
        const [report] = bench.report().filter((l) => l.device === device.id);
        // A device without a link has no line of its own.
        if (report) expect(report.reason?.says).toBeTruthy();
        tally.says += 1;
      }
    }
    await bench.stop();
  }
  console.log(JSON.stringify(tally));
  // It tries something: not all are refused by the schema alone.
  expect(tally.stands).toBeGreaterThan(count / 5);
  expect(tally.refused).toBeGreaterThan(count / 5);
  expect(tally.refused + tally.stands + tally.says).toBeGreaterThan(0.95 * count);
});
