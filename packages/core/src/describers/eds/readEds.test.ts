import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { connectionImages, connectionPoints } from './connectionImages.js';
import type { Eds } from './eds.js';
import type { Described } from '../shared/described.js';
import { readEds } from './readEds.js';
import { writeEds } from './writeEds.js';

const demo = readFileSync(new URL('../../../../../demo/describers/murmel_px8.eds', import.meta.url), 'utf8');

const head = '[File]\nDescText = "x";\n[Device]\nVendCode = 65001;\nProdName = "y";\n';
const read = (rest: string): Described<Eds> => readEds(head + rest);
const codes = (rest: string) => read(rest).defects.map((d) => `${d.line} ${d.code}`);

/** The grammar: CIP Vol. 1, 7-3 (from memory); each line written by hand. */
describe('grammar', () => {
  test('comments, texts in pieces, continued lines, empty and hex fields', () => {
    const { describer, defects } = read(`[Params] $ a comment
      Param1 = 0, $ reserved
        6, "20 0F 24 01 30 01", 0x0014, 0xC7, 2,
        "Speed " $ the name goes on
        "reference", "Hz", "A dollar $ in quotes, a comma; a \\"quote\\"",
        0, 0x1F4, , 1, 100, 1, 0, , , , , 2;`);
    expect(defects).toEqual([]);
    expect(describer.parameters[0]).toMatchObject({
      number: 1,
      path: '20 0F 24 01 30 01',
      descriptor: 0x14,
      dataType: 0xc7,
      size: 2,
      name: 'Speed reference',
      unit: 'Hz',
      help: 'A dollar $ in quotes, a comma; a "quote"',
      minimum: 0,
      maximum: 500,
      initial: null,
      decimals: 2,
      scaling: { multiplier: 1, divider: 100, base: 1, offset: 0, multiplierLink: null },
    });
  });

  test('links of a scaling, labels, and words in large and small letters', () => {
    const { describer } = readEds(
      `[FILE]\n[device]\n[params]\nPARAM3 = 0,,,0,0xC6,1,"a","","",0,2,1,1,1,1,0,Param7,param8,,Param9,0;\nenum3 = 0,"off",1,"on",2,"auto";`,
    );
    expect(describer.parameters[0]!.scaling).toMatchObject({
      multiplierLink: 7,
      dividerLink: 8,
      baseLink: null,
      offsetLink: 9,
    });
    expect(describer.parameters[0]!.labels).toEqual([
      { value: 0, text: 'off' },
      { value: 1, text: 'on' },
      { value: 2, text: 'auto' },
    ]);
  });

  test('what is not understood is kept as it was written', () => {
    const { describer } = read(
      '[65013_Special]\nKey = {1, 2, {3; 4}}, "a, b";\n[Device Classification]\nClass1 = EtherNetIP;\nOwn = 5;',
    );
    expect(describer.kept).toEqual([
      { name: '65013_Special', entries: [{ keyword: 'Key', fields: ['{1, 2, {3; 4}}', '"a, b"'] }] },
      { name: 'Device Classification', entries: [{ keyword: 'Own', fields: ['5'] }] },
    ]);
    expect(describer.device.classification).toEqual(['EtherNetIP']);
  });
});

describe('files that break the grammar slightly are read on, and say where', () => {
  test.each<[string, string, string[]]>([
    [
      'a missing semicolon',
      '[Port]\nPort1 = TCP, "a", "20 F5 24 01", 2\nPort2 = TCP, "b", "", 3;',
      ['7 eds.semicolon'],
    ],
    [
      '… before a section',
      '[Port]\nPort1 = TCP, "a", "", 2\n[Capacity]\nMaxIOProducers = 4;',
      ['7 eds.semicolon'],
    ],
    ['… at the end of the file', '[Port]\nPort1 = TCP, "a", "", 2', ['7 eds.semicolon']],
    [
      'a text without its closing quote',
      '[Port]\nPort1 = TCP, "a, "20 F5", 2;\nPort2 = TCP, "b", "", 3;',
      ['7 eds.quote'],
    ],
    ['a section without its bracket', '[Port\nPort1 = TCP, "a", "", 2;', ['6 eds.bracket']],
    ['a brace that is not closed', '[Own]\nA = {1, {2;\nB = 3;', ['7 eds.brace']],
    ['a stray line', '[Port]\nnonsense\nPort1 = TCP, "a", "", 2;', ['7 eds.stray']],
    ['an entry twice', '[Port]\nPort1 = TCP, "a", "", 2;\nPort1 = TCP, "b", "", 3;', ['8 described.twice']],
    [
      'a section twice',
      '[Port]\nPort1 = TCP, "a", "", 2;\n[Port]\nPort2 = TCP, "b", "", 3;',
      ['8 described.twice'],
    ],
    ['a number that is none', '[Capacity]\nMaxIOProducers = four;', ['7 eds.noNumber']],
    [
      'a group that counts wrong',
      '[Params]\nParam1 = 0,,,0,0xC6,1,"a";\n[Groups]\nGroup1 = "g", 2, 1;',
      ['9 eds.count'],
    ],
    [
      'a reference to nothing',
      '[Assembly]\nAssem1 = "a", "20 04 24 64", 2, 0, , , 16, Param5;',
      ['7 described.dangling'],
    ],
    [
      'members that fill another size',
      '[Params]\nParam1 = 0,,,0,0xC7,2,"a";\n[Assembly]\nAssem1 = "a","",6,0,,,16,Param1;',
      ['9 eds.size'],
    ],
    [
      'a format that refers to no assembly',
      '[Connection Manager]\nConnection1 = 0x04010002, 0x44240405, , 2, blub, , 2, , , , , , "c", "", "20 04";',
      ['7 eds.noReference'],
    ],
  ])('%s', (_says, rest, expected) => {
    expect(codes(rest)).toEqual(expected);
  });

  test('after each of them, what follows is there', () => {
    expect(
      read('[Port]\nPort1 = TCP, "a", "20 F5 24 01", 2\nPort2 = TCP, "b", "", 3;').describer.ports,
    ).toMatchObject([
      { number: 1, name: 'a', port: 2 },
      { number: 2, name: 'b', port: 3 },
    ]);
    // The text ends with its line; the next entry is whole.
    const { ports } = read('[Port]\nPort1 = TCP, "never closed;\nPort2 = TCP, "b", "", 3;').describer;
    expect(ports).toMatchObject([{ name: 'never closed' }, { name: 'b' }]);
  });

  test('an entry before the first section, and sections that are missing', () => {
    expect(readEds('A = 1;\n[Port]\n').defects.map((d) => d.code)).toEqual([
      'eds.outside',
      'described.missing',
      'described.missing',
    ]);
  });

  test('a file without a section is refused, and one that is too large', () => {
    expect(() => readEds('hello')).toThrow(/no section/);
    expect(() => readEds(`[File]${'x'.repeat(5_000_001)}`)).toThrow(/5000000 characters/);
    expect(() => readEds('[A]\n'.repeat(501))).toThrow(/500 sections/);
  });
});

describe('the process I/O of the demo', () => {
  const { describer, defects } = readEds(demo);

  test('its small faults are listed: a semicolon, and a group that counts wrong', () => {
    expect(defects.map((d) => d.code)).toEqual(['eds.semicolon', 'eds.count']);
    expect(demo.split('\n')[defects[0]!.line - 1]).toContain('Param13');
  });

  test('its connections become images with fields', () => {
    const [owner, inputOnly] = connectionImages(describer);
    expect(owner).toMatchObject({
      configurationInstance: 150,
      command: { instance: 120, size: 8 },
      feedback: { instance: 110, size: 12 },
    });
    expect(inputOnly).toMatchObject({ command: { instance: 198, size: 0, fields: [] } });
    const fields = owner!.feedback.fields.map((f) => [f.name, f.type, f.at, f.bits]);
    expect(fields.slice(0, 5)).toEqual([
      ['heater', 'BOOL', 0, 1],
      ['humidifier', 'BOOL', 1, 1],
      ['fan', 'BOOL', 2, 1],
      ['flap', 'BOOL', 3, 1],
      ['controller_runs', 'BOOL', 8, 1],
    ]);
    // (raw − 5000) / 500: 30000 counts are 50 °C (CIP Vol. 1, 5-14.2.1.4, from memory).
    const temperature = owner!.feedback.fields.find((f) => f.name === 'room_temperature')!;
    expect(temperature).toMatchObject({
      at: 16,
      scale: { factor: '1/500', offset: '-10' },
      unit: '°C',
      limits: { minimum: '-10', maximum: '50' },
    });
    expect(owner!.command.fields[3]!.labels).toEqual([
      { value: 0, text: 'closed' },
      { value: 1, text: 'open' },
    ]);
  });

  test('written and read again it is the same model, without defects of the grammar', () => {
    const again = readEds(writeEds(describer));
    expect(again.describer).toEqual(describer);
    expect(again.defects).toEqual([]);
  });
});

test.each([
  ['20 04 24 96 2C 78 2C 6E', { configuration: 150, command: 120, feedback: 110 }],
  ['20 04 24 01 2D 00 2C 01 2D 00 00 02', { configuration: 1, command: 300, feedback: 512 }],
  ['20 04 24 05 24 06 24 07', { configuration: 5, command: 6, feedback: 7 }],
  ['20 04 24', { configuration: null, command: 0, feedback: 0 }],
  ['', { configuration: null, command: 0, feedback: 0 }],
])('the instances in the path %s', (path, points) => {
  expect(connectionPoints(path)).toEqual(points);
});

test('nested assemblies lie one behind the other, and a circle ends', () => {
  const nested = (inner: string) =>
    connectionImages(
      read(`[Params]\nParam1 = 0,,,0,0xC7,2,"speed";\n[Assembly]
        Assem1 = "pair",,,,,, 16, Param1, , Assem2, 8, , 16, Param1;
        Assem2 = "half",,,,,, ${inner};
        [Connection Manager]
        Connection1 = 0x04010002, 0x44240405, , , , , 7, Assem1, , , , , "c", "", "20 04 24 01 2C 02 2C 03";`)
        .describer,
    )[0]!.feedback.fields.map((f) => [f.name, f.at, f.type]);
  expect(nested('8, , 8, Param1')).toEqual([
    ['speed', 0, 'UINT'],
    ['half_speed', 24, 'BITS'],
    ['speed_2', 40, 'UINT'],
  ]);
  expect(nested(', Assem1').length).toBeGreaterThan(0);
});
