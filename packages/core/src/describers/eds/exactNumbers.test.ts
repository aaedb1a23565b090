import { describe, expect, test } from 'vitest';
import { connectionImages, fieldsOf, filledPath } from './connectionImages.js';
import { parametersOf } from './edsParameters.js';
import { readEds } from './readEds.js';
import { writeEds } from './writeEds.js';

/** EDS after CIP Vol. 1, chapter 7 (from memory); the files are written for these tests. */
const head = `[File]
  DescText = "a"; CreateDate = 01-01-2026; CreateTime = 00:00:00; Revision = 1.0;
[Device]
  VendCode = 65010; VendName = "Quellwerk"; ProdType = 2; ProdTypeStr = "Drive"; ProdCode = 1;
  MajRev = 1; MinRev = 1; ProdName = "X"; Catalog = "X";
`;
const read = (rest: string) => readEds(head + rest);
const parameter = (type: string, size: number, rest: string, number = 1) =>
  `Param${number} = 0, 6, "20 64 24 01 30 0${number}", 0x0000, ${type}, ${size}, "p${number}", "", "", ${rest};`;
const one = (type: string, size: number, rest: string) =>
  read(`[Params]\n${parameter(type, size, rest)}`).describer.parameters[0]!;

describe('numbers of any width are exact', () => {
  test.each([
    // IEC 61131-3:2013, table 10: the ranges of the types.
    ['0xC9', 8, '0, 18446744073709551615, 9007199254740993', [0, 18446744073709551615n, 9007199254740993n]],
    ['0xC5', 8, '-9223372036854775808, 9223372036854775807, 0', [-(2n ** 63n), 2n ** 63n - 1n, 0]],
    // Hex of a signed type is two's complement.
    ['0xC3', 2, '0x8000, 0x7FFF, 0xFFFF', [-32768, 32767, -1]],
    ['0xC4', 4, '0x80000000, 0x7FFFFFFF, 0x0', [-2147483648, 2147483647, 0]],
    [
      '0xC5',
      8,
      '0x8000000000000000, 0x7FFFFFFFFFFFFFFF, 0xFFFFFFFFFFFFFFFF',
      [-(2n ** 63n), 2n ** 63n - 1n, -1],
    ],
    ['0xC7', 2, '0x8000, 0xFFFF, +5', [32768, 65535, 5]],
    ['0xCA', 4, '-3.402823E+38, 3.402823E+38, 1.5', [-3.402823e38, 3.402823e38, 1.5]],
  ])('type %s of %i bytes: %s', (type, size, rest, values) => {
    const { minimum, maximum, initial } = one(type, size, rest);
    expect([minimum, maximum, initial]).toEqual(values);
  });

  test('the limits of REAL are kept to the last digit, and the field with them', () => {
    const { describer, defects } = read(
      `[Params]\n${parameter('0xCA', 4, '-3.402823E+38, 3.402823E+38, 0.0')}\n[Assembly]\nAssem1 = "all", "20 04 24 64", 4, 0, , , 32, Param1;`,
    );
    expect(defects).toEqual([]);
    const digits = `3402823${'0'.repeat(32)}`;
    const limits = { minimum: `-${digits}`, maximum: digits };
    expect(parametersOf(describer, () => 'id')[0]).toMatchObject({ type: 'REAL', limits });
    expect(fieldsOf(describer, describer.assemblies[0]!, 32)).toMatchObject([
      { name: 'p1', type: 'REAL', limits },
    ]);
  });

  test('a limit that cannot be kept is said, and the rest stays', () => {
    const { describer, defects } = read(`[Params]\n${parameter('0xCB', 8, '-1.7976E+308, 1.7976E+308, 0')}`);
    expect(defects.map((d) => [d.line, d.code])).toEqual([[7, 'described.limits']]);
    expect(parametersOf(describer, () => 'id')).toMatchObject([{ name: 'p1', type: 'LREAL', limits: null }]);
  });

  test('a text has a text for its default, and both come back', () => {
    const text = one('0xDA', 16, ', , "Käse, \\"reif\\""');
    expect([text.initial, text.initialText]).toEqual([null, 'Käse, "reif"']);
    const { describer } = read(`[Params]\n${parameter('0xDA', 16, ', , "ripe"')}`);
    expect(readEds(writeEds(describer)).describer.parameters).toEqual(describer.parameters);
  });

  test('what was exact comes back exact', () => {
    const { describer } = read(
      `[Params]\n${parameter('0xC9', 8, '1, 18446744073709551615, 9007199254740993')}\n${parameter('0xC3', 2, '0x8000, 0x7FFF, 0', 2)}`,
    );
    expect(readEds(writeEds(describer)).describer.parameters).toEqual(describer.parameters);
  });
});

describe('members', () => {
  const fields = (type: string, size: number, member: string, extra = '') => {
    const { describer } = read(
      `[Params]\n${parameter(type, size, '0, 0, 0')}\n${extra}\n[Assembly]\nAssem1 = "all", "20 04 24 64", 8, 0, , , ${member};`,
    );
    return fieldsOf(describer, describer.assemblies[0]!, 64);
  };

  test('one that is narrower than its signed type keeps its sign', () => {
    expect(fields('0xC3', 2, '12, Param1')).toMatchObject([
      { type: 'BITS', bits: 12, sign: { way: 'complement' } },
    ]);
    expect(fields('0xC7', 2, '12, Param1')[0]!.sign).toBeNull();
    expect(fields('0xC3', 2, '16, Param1')[0]).toMatchObject({ type: 'INT', sign: null });
  });

  test('the enumeration of a bit string labels its bits, that of a number its values', () => {
    const named = 'Enum1 = 0, "ready", 15, "late", 16, "nowhere";';
    expect(fields('0xD2', 2, '16, Param1', named)[0]).toMatchObject({
      labels: [],
      bitLabels: [
        { bit: 0, text: 'ready' },
        { bit: 15, text: 'late' },
      ],
    });
    expect(fields('0xC7', 2, '16, Param1', named)[0]).toMatchObject({
      bitLabels: [],
      labels: [{ value: 0 }, {}, {}],
    });
  });

  test('a text stays a text', () =>
    expect(fields('0xDA', 8, '64, Param1')[0]).toMatchObject({
      type: 'STRING',
      bits: 64,
      text: { prefix: 8 },
    }));
});

describe('the grammar, as files break it', () => {
  const codes = (rest: string) => read(rest).defects.map((d) => d.code);
  const two = `[Params]\n${parameter('0xC7', 2, '0, 9, 1')}\n${parameter('0xC7', 2, '0, 9, 2', 2)}`;
  const names = (text: string) => readEds(text).describer.parameters.map((p) => [p.name, p.initial]);
  const both = [
    ['p1', 1],
    ['p2', 2],
  ];

  test('a missing semicolon behind a quoted text swallows nothing', () => {
    const rest =
      '[Params]\nParam1 = 0, , "", 0, 0xC7, 2, "p1", "", "the end"\nParam2 = 0, , "", 0, 0xC7, 2, "p2";\n';
    expect(read(rest).describer.parameters.map((p) => [p.number, p.help])).toEqual([
      [1, 'the end'],
      [2, ''],
    ]);
    expect(codes(rest)).toEqual(['eds.semicolon']);
    const section =
      '[Params]\nParam1 = 0, , "", 0, 0xC7, 2, "p1", "", "the end"\n[Groups]\nGroup1 = "g", 1, 1;\n';
    expect(read(section).describer.groups).toMatchObject([{ name: 'g' }]);
  });

  test.each([
    ['\r', 'nothing but carriage returns'],
    ['\r\n', 'both'],
  ])('lines ended by %j', (end) => expect(names((head + two).replaceAll('\n', end))).toEqual(both));

  test('a comment behind a heading with both line ends', () => {
    const text = (head + two).replace('[Params]', '[Params] $ all of them').replaceAll('\n', '\r\n');
    expect(names(text)).toEqual(both);
    expect(readEds(text).defects).toEqual([]);
  });

  test('entries behind a heading on its line', () => {
    const text = head + two.replace('[Params]\n', '[Params] ');
    expect([names(text), readEds(text).defects]).toEqual([both, []]);
  });

  test('paths without blanks, and texts that go on in the next line', () => {
    const [first] = read(
      '[Params]\nParam1 = 0, 6, "206424013001", 0, 0xC7, 2, "long"\n   " name", "", "one "\n\n  "help";',
    ).describer.parameters;
    expect(first).toMatchObject({ path: '20 64 24 01 30 01', name: 'long name', help: 'one help' });
  });
});

describe('connections', () => {
  const connection = (rest: string) => `[Connection Manager]\nConnection1 = 0x04010002, 0x44640405, ${rest};`;

  test('a parameter in a path stands for its default, and the rest stays as it is', () => {
    const rest = [
      '[Params]',
      parameter('0xC6', 1, '1, 200, 102'),
      parameter('0xC7', 2, '1, 900, 258', 2),
      connection(', 4, , , 4, , , , , , "c", "", "20 04 24 01 2C [Param1] 2C 66"'),
    ].join('\n');
    const { describer } = read(rest);
    const [images] = connectionImages(describer);
    expect([images!.configurationInstance, images!.command.instance, images!.feedback.instance]).toEqual([
      1, 102, 102,
    ]);
    expect(filledPath(describer, '20 04 25 00 Param2')).toBe('20 04 25 00 02 01');
    expect(filledPath(describer, '2C [Param9] 2C 66')).toBe('2C 00 2C 66');
  });

  test('a format of one parameter, of nested assemblies, and sizes that only the format says', () => {
    const rest = (format: string) =>
      [
        '[Params]',
        parameter('0xC7', 2, '0, 0, 0'),
        parameter('0xC4', 4, '0, 0, 0', 2),
        '[Assembly]',
        'Assem1 = "inner", , , 0, , , 16, Param1, , Param2;',
        'Assem2 = "outer", , , 0, , , , Assem1, 16, , , Assem1;',
        connection(`, , , , , ${format}, , , , , "c", "", "20 04 24 01 2C 65 2C 66"`),
      ].join('\n');
    const feedback = (format: string) => connectionImages(read(rest(format)).describer)[0]!.feedback;
    expect(feedback('Param2')).toMatchObject({ size: 4, fields: [{ name: 'p2', at: 0, type: 'DINT' }] });
    // 16 + 32 bits, 16 of padding, and the same again.
    expect(feedback('Assem2').size).toBe(14);
    expect(feedback('Assem2').fields.map((f) => f.at)).toEqual([0, 16, 64, 80]);
  });

  test('an assembly that contains itself, and a scaling that divides by 0, are said', () => {
    const { defects } = read(
      `[Params]\n${parameter('0xC7', 2, '0, 0, 0, 1, 0, 1, 0')}\n[Assembly]\nAssem1 = "a", , 4, 0, , , , Assem2;\nAssem2 = "b", , 4, 0, , , 16, Param1, , Assem1;`,
    );
    expect(defects.map((d) => [d.line, d.code])).toEqual([
      [7, 'eds.divider'],
      [9, 'eds.circle'],
      [10, 'eds.circle'],
    ]);
  });
});
