import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { Problem } from '../../messages/problem.js';
import { textPrefixOf } from './dataTypes.js';
import type { Eds } from './eds.js';
import { connectionImages } from './connectionImages.js';
import { readEds } from './readEds.js';
import { writeEds } from './writeEds.js';
import { runs } from '../../testRuns.js';

const demo = readFileSync(new URL('../../../../../demo/describers/murmel_px8.eds', import.meta.url), 'utf8');

const number = (minimum: number, maximum: number) => fc.integer({ min: minimum, max: maximum });
const anyText = fc.string({ unit: 'grapheme', maxLength: 30 }).filter((t) => !/[\0\u2028]/.test(t));
/** An unquoted word of the grammar. */
const word = fc.stringMatching(/^[A-Za-z][A-Za-z0-9_:-]{0,12}$/);
const hexPath = fc
  .array(number(0, 255), { maxLength: 8 })
  .map((bytes) => bytes.map((b) => b.toString(16).toUpperCase().padStart(2, '0')).join(' '));
const maybe = <T>(value: fc.Arbitrary<T>) => fc.option(value, { nil: null });
const link = maybe(number(1, 99));
const uniqueNumbers = <T extends { number: number }>(one: fc.Arbitrary<T>, maxLength: number) =>
  fc
    .uniqueArray(one, { selector: (x) => x.number, maxLength })
    .map((list) => list.sort((a, b) => a.number - b.number));

const exact = fc.oneof(
  number(-0x8000_0000, 0xffff_ffff),
  fc.bigInt({ min: 2n ** 53n, max: 2n ** 64n - 1n }),
  fc.bigInt({ min: -(2n ** 63n), max: -(2n ** 53n) }),
);
const parameter = fc
  .record({
    number: number(1, 999),
    path: hexPath,
    descriptor: number(0, 0xffff),
    dataType: number(0xc1, 0xde),
    size: number(0, 8),
    // A parameter that says nothing at all is left out when it is written.
    name: anyText,
    unit: anyText,
    help: anyText,
    minimum: maybe(exact),
    maximum: maybe(exact),
    initial: maybe(fc.double({ min: -1e6, max: 1e6, noNaN: true }).map((n) => n || 0)),
    scaling: fc.record({
      multiplier: number(0, 1000),
      divider: number(0, 1000),
      base: number(1, 10),
      offset: number(-1000, 1000),
      multiplierLink: link,
      dividerLink: link,
      baseLink: link,
      offsetLink: link,
    }),
    decimals: number(0, 9),
    labels: fc.array(fc.record({ value: number(-100, 1000), text: anyText }), { maxLength: 4 }),
    initialText: anyText,
  })
  // Only a text has a text for its default.
  .map((p) => (textPrefixOf(p.dataType) === undefined ? { ...p, initialText: '' } : { ...p, initial: null }));
const stated = fc.oneof(
  fc.constant(null),
  fc.record({ value: number(0, 1_000_000) }),
  fc.record({ parameter: number(1, 999) }),
);
const format = fc.oneof(
  fc.constant(null),
  fc.record({ assembly: number(1, 999) }),
  fc.record({ parameter: number(1, 999) }),
);
const direction = fc.record({ rpi: stated, size: stated, format });
const refers = fc.oneof(
  fc.record({ to: fc.constant('parameter' as const), number: number(1, 999) }),
  fc.record({ to: fc.constant('assembly' as const), number: number(1, 999) }),
  fc.record({ to: fc.constant('path' as const), path: hexPath.filter((p) => p !== '' && p !== '0') }),
  fc.record({ to: fc.constant('nothing' as const) }),
);
const member = fc
  .record({ bits: maybe(number(0, 512)), refers })
  // Neither bits nor a reference is no member.
  .filter((m) => m.bits !== null || m.refers.to !== 'nothing');

const anyDescriber: fc.Arbitrary<Eds> = fc.record({
  source: fc.constant('eds' as const),
  file: fc.record({
    text: anyText,
    createDate: fc.constantFrom('', '01-31-2025'),
    createTime: fc.constantFrom('', '12:00:00'),
    modifiedDate: fc.constantFrom('', '12-01-2026'),
    modifiedTime: fc.constant(''),
    revision: fc.constantFrom('1.0', '2.17'),
    homeUrl: anyText,
  }),
  device: fc.record({
    vendor: number(0, 0xffff),
    vendorName: anyText,
    deviceType: number(0, 0xffff),
    deviceTypeName: anyText,
    productCode: number(0, 0xffff),
    majorRevision: number(0, 127),
    minorRevision: number(0, 255),
    productName: anyText,
    catalog: anyText,
    classification: fc.array(word, { maxLength: 3 }),
  }),
  parameters: uniqueNumbers(parameter, 6),
  assemblies: uniqueNumbers(
    fc.record({
      number: number(1, 999),
      name: anyText,
      path: hexPath,
      size: maybe(number(0, 1500)),
      descriptor: number(0, 0xffff),
      members: fc.array(member, { maxLength: 6 }),
    }),
    4,
  ),
  connections: uniqueNumbers(
    fc.record({
      number: number(1, 99),
      triggers: number(0, 0xffff_ffff),
      parameters: number(0, 0xffff_ffff),
      command: direction,
      feedback: direction,
      proxyConfiguration: fc.record({ size: stated, format }),
      configuration: fc.record({ size: stated, format }),
      name: anyText,
      help: anyText,
      path: hexPath,
    }),
    3,
  ),
  groups: uniqueNumbers(
    fc.record({
      number: number(1, 99),
      name: anyText,
      parameters: fc.array(number(1, 999), { maxLength: 5 }),
    }),
    3,
  ),
  ports: uniqueNumbers(
    fc.record({ number: number(1, 9), type: word, name: anyText, path: hexPath, port: number(0, 9) }),
    2,
  ),
  capacity: fc.record({
    messageConnections: maybe(number(0, 99)),
    ioProducers: maybe(number(0, 99)),
    ioConsumers: maybe(number(0, 99)),
    cipConnections: maybe(number(0, 99)),
    traffic: uniqueNumbers(
      fc.record({ number: number(1, 9), direction: word, bytes: number(0, 1500), packets: number(0, 9999) }),
      2,
    ),
  }),
  kept: fc.constant([]),
});

test('written and read again, a describer is the same, and no defect of the grammar is found', () => {
  const grammar = ['eds.semicolon', 'eds.quote', 'eds.bracket', 'eds.stray', 'eds.outside', 'eds.noNumber'];
  fc.assert(
    fc.property(anyDescriber, (describer) => {
      const { describer: again, defects } = readEds(writeEds(describer));
      expect(again).toEqual(describer);
      expect(defects.filter((d) => grammar.includes(d.code))).toEqual([]);
    }),
    { numRuns: runs(150), seed: 7 },
  );
});

describe('files as other programs write them', () => {
  const habits = fc.record({
    ends: fc.constantFrom('\n', '\r\n', '\r'),
    letters: fc.constantFrom<(text: string) => string>(
      (t) => t,
      (t) => t.toLowerCase(),
      (t) => t.toUpperCase(),
    ),
    comments: fc.boolean(),
    tabs: fc.boolean(),
    joined: fc.boolean(),
    mark: fc.constantFrom('', '\ufeff'),
    /** Every so many entries without its semicolon; 0: none. */
    lacking: number(0, 3),
    turned: fc.boolean(),
    strangers: number(0, 4),
  });

  /** A well written file in the habits of another program, and how many semicolons and strange entries it has. */
  function rough(text: string, habit: typeof habits extends fc.Arbitrary<infer H> ? H : never) {
    let missing = 0;
    let entries = 0;
    const strange: string[] = [];
    const sections = text.split(/^(?=\[)/m).filter(Boolean);
    const whole = (habit.turned ? sections.reverse() : sections)
      .map((section, s) => {
        if (s >= habit.strangers) return section;
        strange.push(`Vendor_Own_${s}`);
        return `${section.trimEnd()}\n        Vendor_Own_${s} = 1, "a text; with $", {2, 3};\n`;
      })
      .join('');
    const lines = whole.split('\n');
    const written = lines.map((line, i) => {
      let own = line
        .replace(/^ {8}(Vendor_Own_\d+|\w+)( =)/, (_, word: string, rest: string) => {
          entries += 1;
          return `        ${strange.includes(word) ? word : habit.letters(word)}${rest}`;
        })
        .replace(/^\[.*\]$/, (heading) => habit.letters(heading));
      const next = lines[i + 1] ?? '';
      if (
        own.endsWith(';') &&
        habit.lacking &&
        entries % habit.lacking === 0 &&
        /^( {8}\w+ =|\[)/.test(next)
      ) {
        missing += 1;
        own = own.slice(0, -1);
      }
      if (habit.tabs) own = own.replace(/^ +/, (blanks) => '\t'.repeat(blanks.length / 8));
      return habit.comments && own ? `${own} $ a comment; with = and [x]` : own;
    });
    const joined =
      habit.joined && !habit.comments ? written.join('\n').replace(/\]\n\s+/g, '] ') : written.join('\n');
    return { text: habit.mark + joined.replaceAll('\n', habit.ends), missing, strange };
  }

  test('give the same model, and what is wrong or strange in them is said or kept', () => {
    fc.assert(
      fc.property(anyDescriber, habits, (describer, habit) => {
        const { text, missing, strange } = rough(writeEds(describer), habit);
        const { describer: again, defects } = readEds(text);
        expect({ ...again, kept: [] }).toEqual(describer);
        expect(defects.filter((d) => d.code === 'eds.semicolon')).toHaveLength(missing);
        expect(defects.filter((d) => ['eds.stray', 'eds.quote', 'eds.outside'].includes(d.code))).toEqual([]);
        // Every entry is in the model, or kept in its own words.
        const kept = again.kept.flatMap((k) => k.entries.map((e) => e.keyword));
        expect(kept.sort()).toEqual(strange.sort());
        for (const { entries } of again.kept)
          for (const { fields } of entries) expect(fields).toEqual(['1', '"a text; with $"', '{2, 3}']);
      }),
      { numRuns: runs(150), seed: 18 },
    );
  });
});

describe('files that were damaged', () => {
  /** Cuts, doubles, swaps and strews characters of the grammar over a good file. */
  const damaged = fc
    .array(
      fc.record({
        at: fc.double({ min: 0, max: 0.999, noNaN: true }),
        what: fc.constantFrom(
          'cut',
          'drop',
          'double',
          '"',
          ';',
          ',',
          '[',
          ']',
          '=',
          '$',
          '{',
          '\\',
          '\0',
          '\n',
          '\ufffd',
        ),
        length: number(1, 400),
      }),
      { minLength: 1, maxLength: 12 },
    )
    .map((blows) => {
      let text = demo;
      for (const { at, what, length } of blows) {
        const place = Math.floor(at * text.length);
        if (what === 'cut') text = text.slice(0, place);
        else if (what === 'drop') text = text.slice(0, place) + text.slice(place + length);
        else if (what === 'double') text = text.slice(0, place + length) + text.slice(place);
        else text = text.slice(0, place) + what + text.slice(place);
      }
      return text;
    });

  test('give a model or an error, and what they give can be written and read again', () => {
    fc.assert(
      fc.property(damaged, (text) => {
        try {
          const { describer } = readEds(text);
          connectionImages(describer);
          const once = readEds(writeEds(describer)).describer;
          expect(readEds(writeEds(once)).describer).toEqual(once);
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
        }
      }),
      { numRuns: runs(150), seed: 11 },
    );
  });

  test.each<[string, string]>([
    ['opened braces', `[A]\nB = ${'{'.repeat(200_000)}`],
    ['opened quotes', `[A]\n${'B = "\n'.repeat(60_000)}`],
    ['blanks in a text that is not closed', `[A]\nB = "${' '.repeat(1_000_000)}`],
    ['commas', `[A]\nB = ${','.repeat(300_000)};`],
    [
      'an assembly inside itself',
      `[Assembly]\nAssem1 = "a",,,,,,${' ,Assem1,'.repeat(500)};\n[Connection Manager]\nConnection1 = 1,1,,,Assem1,,,Assem1;`,
    ],
    [
      'a huge number',
      '[Assembly]\nAssem99999999999999999999 = "a",,1e308;\nAssem1 = "a","",99999999999999999999;',
    ],
  ])('%s: bounded', (_says, text) => {
    const { describer } = readEds(text);
    expect(connectionImages(describer).length).toBeLessThanOrEqual(1);
  });
});
