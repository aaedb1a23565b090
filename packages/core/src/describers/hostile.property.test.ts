import { strToU8, zipSync } from 'fflate';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { Problem } from '../messages/problem.js';
import { readDescriber } from './read.js';

const file = (name: string) => readFileSync(new URL(`../../../../demo/describers/${name}`, import.meta.url));
const samples = [
  'murmel_pt3_iodd.xml',
  'tannhorn_pv1_iodd.xml',
  'GSDML-V2.42-Murmel-MR5-20260901.xml',
  'silberdistel_lv2_iodd.zip',
].map(file);

/** A model, or a problem that says why not; nothing else is an answer. */
function read(bytes: Uint8Array): string {
  try {
    const { describer, defects } = readDescriber(bytes, TextDecoder);
    expect(defects.length).toBeLessThanOrEqual(200);
    return describer.source;
  } catch (error) {
    if (error instanceof Problem) return error.code;
    throw error;
  }
}

const text = (content: string) => new TextEncoder().encode(content);
const iodd = (inside: string) => text(`<IODevice><ProfileBody>${inside}</ProfileBody></IODevice>`);

describe('hostile files', () => {
  const laughs = Array.from({ length: 10 }, (_, i) => `<!ENTITY l${i + 1} "${`&l${i};`.repeat(10)}">`).join(
    '',
  );
  test.each<[string, Uint8Array, string]>([
    [
      'entities that unfold',
      text(`<!DOCTYPE x [<!ENTITY l0 "ha">${laughs}]><IODevice>&l10;</IODevice>`),
      'xml.declares',
    ],
    ['an outside entity', text('<!DOCTYPE x SYSTEM "file:///etc/passwd"><IODevice/>'), 'xml.declares'],
    ['100,000 levels', text('<a>'.repeat(100_000)), 'describer.tooLarge'],
    ['half a million elements', iodd('<b/>'.repeat(500_000)), 'describer.tooLarge'],
    ['half a million undeclared entities', iodd('&x;'.repeat(500_000)), 'xml.broken'],
    ['another XML', text('<html><body/></html>'), 'describer.noKind'],
    ['nothing but a declaration', text('<?xml version="1.0"?>'), 'xml.broken'],
    [
      'a count without end',
      iodd(
        '<DeviceFunction><ProcessDataCollection><ProcessData id="P"><ProcessDataIn bitLength="8"><Datatype xsi:type="ArrayT" count="1e300"><SimpleDatatype xsi:type="UIntegerT" bitLength="8"/></Datatype></ProcessDataIn></ProcessData></ProcessDataCollection></DeviceFunction>',
      ),
      'iodd',
    ],
    [
      'slots without end',
      text(
        '<ISO15745Profile><ProfileBody><ApplicationProcess><DeviceAccessPointList><DeviceAccessPointItem PhysicalSlots="0..4000000000"/></DeviceAccessPointList></ApplicationProcess></ProfileBody></ISO15745Profile>',
      ),
      'gsdml',
    ],
    ['a name that leads out', zipSync({ '../../etc/cron.xml': strToU8('<a/>') }), 'package.path'],
    ['a name from the root', zipSync({ '/etc/cron.xml': strToU8('<a/>') }), 'package.path'],
    ['a package without a description', zipSync({ 'picture.png': strToU8('x') }), 'package.noDescriber'],
    [
      '600 files',
      zipSync(Object.fromEntries(Array.from({ length: 600 }, (_, i) => [`${i}.txt`, strToU8('')]))),
      'describer.tooLarge',
    ],
    [
      '50 MB of blanks in 50 kB',
      zipSync({ 'bomb.xml': new Uint8Array(50_000_000).fill(32) }),
      'describer.tooLarge',
    ],
    ['a package cut off', file('silberdistel_lv2_iodd.zip').subarray(0, 300), 'package.broken'],
  ])('%s', (_says, bytes, answer) => expect(read(bytes)).toBe(answer));
});

/** One thing wrong somewhere: bytes changed, cut, doubled or taken out, or an attribute's value replaced. */
const damage = fc.record({
  sample: fc.nat(samples.length - 1),
  at: fc.double({ min: 0, max: 0.999, noNaN: true }),
  length: fc.integer({ min: 1, max: 400 }),
  how: fc.constantFrom('change', 'cut', 'double', 'remove', 'value' as const),
  bytes: fc.uint8Array({ minLength: 1, maxLength: 20 }),
  value: fc.constantFrom(
    '',
    '-1',
    '1e999',
    '0..9999999',
    'NaN',
    '4294967296',
    '&',
    '"',
    '\u0000',
    '999999999999999999999',
  ),
});

test('500 damaged files: a model or a problem, in bounded time and memory (seeded)', () => {
  const before = process.memoryUsage().heapUsed;
  const answers = new Set<string>();
  fc.assert(
    fc.property(damage, ({ sample, at, length, how, bytes, value }) => {
      const whole = samples[sample]!;
      const place = Math.floor(at * whole.length);
      const [head, tail] = [whole.subarray(0, place), whole.subarray(place)];
      const pieces = {
        change: () => [head, bytes, tail.subarray(bytes.length)],
        cut: () => [head],
        double: () => [head, tail.subarray(0, length), tail],
        remove: () => [head, tail.subarray(length)],
        value: () => [head, text(tail.toString('latin1').replace(/="[^"]*"/, `="${value}"`))],
      }[how]();
      answers.add(read(Buffer.concat(pieces)));
    }),
    { numRuns: 500, seed: 20261124 },
  );
  expect(answers.has('iodd') && answers.has('gsdml')).toBe(true);
  expect(process.memoryUsage().heapUsed - before).toBeLessThan(200e6);
});
