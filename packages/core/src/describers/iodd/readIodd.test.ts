import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { codecOf } from '../../layout/codec.js';
import { readDescriber } from '../read.js';
import type { Iodd } from './iodd.js';
import { dataBytes, processDataFields } from './ioddFields.js';
import { readIodd } from './readIodd.js';

const file = (name: string) => new URL(`../../../../../demo/describers/${name}`, import.meta.url);
const text = (name: string) => readFileSync(file(name), 'utf8');
const pressure = readIodd(text('murmel_pt3_iodd.xml'));
const ids = () => {
  let n = 0;
  return () => `f${(n += 1)}`;
};

describe('the pressure sensor of the demo', () => {
  const { describer } = pressure;
  test('device, variants and communication', () => {
    expect(describer.device).toMatchObject({
      vendorId: 65_013,
      deviceId: 410,
      vendorName: 'Murmel',
      name: 'PT3 pressure sensor',
      variants: [
        { productId: 'PT3-10', text: 'Pressure sensor, -1 to 10 bar' },
        { productId: 'PT3-25', text: 'T_V25_D' },
      ],
    });
    expect(describer.communication).toEqual({
      ioLinkRevision: 'V1.1',
      bitrate: 'COM2',
      minCycleTime: 3200,
      sioSupported: true,
    });
    expect(describer.languages).toEqual(['en', 'de']);
  });

  test('variables: standard ones by their index, own ones with range, unit and named values', () => {
    const of = (id: string) => describer.variables.find((v) => v.id === id)!;
    // IO-Link interface specification V1.1.3, table B.8 (from memory).
    expect([of('V_VendorName').index, of('V_SerialNumber').index, of('V_DeviceStatus').index]).toEqual([
      16, 21, 36,
    ]);
    expect(of('V_SP1')).toMatchObject({
      index: 100,
      access: 'rw',
      initial: '30',
      type: { kind: 'int', bits: 16, ranges: [{ minimum: -10, maximum: 100 }] },
      shown: { gradient: '0.1', unit: 'bar' },
    });
    expect(of('V_Mode1').type.labels).toEqual([
      { value: 0, text: 'off' },
      { value: 1, text: 'hysteresis' },
      { value: 2, text: 'window' },
    ]);
  });

  test('events, errors and menus', () => {
    expect(describer.events.map((e) => [e.code, e.type, e.name])).toEqual([
      [0x1800, 'Warning', 'Membrane is dirty'],
      [0x8df8, 'Error', 'Sensor element broken'],
    ]);
    expect(describer.errors).toEqual([{ code: 0x80, additionalCode: 0x11, name: 'Index not available' }]);
    expect(describer.menus.find((m) => m.id === 'M_All')!.menus).toEqual(['M_Identification', 'M_Switching']);
  });

  test('what is missing is listed with its line', () => {
    expect(pressure.defects.map((d) => [d.line, d.code])).toEqual([[28, 'described.noText']]);
  });
});

describe('process data as fields', () => {
  // IODD 1.1, 7.6 and the interface specification, annex E (from memory): bit offsets count from the lowest bit of the
  // last byte.
  test('16 bits of pressure, 4 of quality, two switching bits in three bytes', () => {
    const { input } = pressure.describer.processData[0]!;
    expect(dataBytes(input!)).toBe(3);
    const fields = processDataFields(input!, 10, ids());
    expect(fields.map((f) => [f.name, f.type, f.at, f.bits, f.order])).toEqual([
      ['brine_pressure', 'INT', 80, 16, 'big'],
      ['signal_quality', 'BITS', 100, 4, null],
      ['output_2', 'BOOL', 97, 1, null],
      ['output_1', 'BOOL', 96, 1, null],
    ]);
    expect(fields[0]).toMatchObject({
      unit: 'bar',
      scale: { factor: '1/10', offset: '0' },
      limits: { minimum: '-1', maximum: '10' },
    });
  });

  test('a 14-bit value above two bits reads as the sensor sends it', () => {
    const valve = readIodd(text('tannhorn_pv1_iodd.xml'));
    expect(valve.defects).toEqual([]);
    const { input, output } = valve.describer.processData[0]!;
    const fields = processDataFields(input!, 0, ids());
    const codec = codecOf({ fields, groups: [], order: 'little', size: 2 });
    // 6789 × 4 + 2: position 67.89 %, it moves, no fault; highest byte first.
    const bytes = new DataView(Uint8Array.of((6789 * 4 + 2) >> 8, (6789 * 4 + 2) & 0xff).buffer);
    codec.decode(bytes);
    const shown = (name: string) => codec.readingAt(codec.signals.findIndex((s) => s.name === name)).text;
    expect([shown('valve_position'), shown('valve_moves'), shown('valve_fault')]).toEqual([
      '67.89',
      '1',
      '0',
    ]);
    expect(processDataFields(output!, 0, ids()).map((f) => [f.name, f.at])).toEqual([
      ['valve_order', 2],
      ['blow_through', 8],
    ]);
  });
});

test('a signed value of 12 bits keeps its sign', () => {
  const type = { kind: 'int' as const, bits: 12, ranges: [], labels: [], items: [] };
  const shown = { gradient: '0.5', offset: '0', unit: 'mm', format: '' };
  const item = { subindex: 1, bitOffset: 4, name: 'Gap', help: '', type, initial: '', shown };
  const data = {
    id: 'P',
    name: '',
    bits: 16,
    shown: null,
    type: { ...type, kind: 'record' as const, bits: 16, items: [item] },
  };
  const codec = codecOf({ fields: processDataFields(data, 0, ids()), groups: [], order: 'little', size: 2 });
  // FFF0: −1 above four bits that mean nothing; 8000: the least of 12 bits.
  for (const [bytes, text] of [
    [[0xff, 0xf0], '-0.5'],
    [[0x80, 0x00], '-1024.0'],
    [[0x7f, 0xff], '1023.5'],
  ] as const) {
    codec.decode(new DataView(Uint8Array.from(bytes).buffer));
    expect(codec.readingAt(0).text).toBe(text);
    expect(codec.numbers[0]).toBe(Number(text));
  }
});

describe('a package', () => {
  const bytes = readFileSync(file('silberdistel_lv2_iodd.zip'));
  test('holds the device and its language files; process data hang on a condition', () => {
    const { describer, defects } = readDescriber(bytes, TextDecoder) as {
      describer: Iodd;
      defects: unknown[];
    };
    expect(defects).toEqual([]);
    expect(describer.languages).toEqual(['en', 'de']);
    expect(describer.processData.map((p) => [p.id, p.condition?.variable, p.condition?.value])).toEqual([
      ['P_Level', 'V_Mode', 0],
      ['P_Distance', 'V_Mode', 1],
    ]);
  });

  test('in another language, where it has it', () => {
    const german = readDescriber(bytes, TextDecoder, 'de').describer as Iodd;
    expect(german.device.name).toBe('LV2 Füllstandsensor');
    // What the language file lacks stands in the primary language.
    expect(german.device.family).toBe('Level');
  });
});

describe('what real files break', () => {
  const whole = text('murmel_pt3_iodd.xml');
  const broken = (from: string | RegExp, to: string) => readIodd(whole.replace(from, to));
  const codes = (d: ReturnType<typeof readIodd>) => d.defects.map((x) => x.code);

  test.each<[string, string | RegExp, string, string]>([
    ['a number that is none', 'index="100"', 'index="hundred"', 'described.noNumber'],
    ['a type that nobody knows', 'xsi:type="BooleanT"', 'xsi:type="BoolT"', 'described.unknownType'],
    ['a data type that is not there', 'datatypeId="D_Switch"', 'datatypeId="D_Gone"', 'described.dangling'],
    [
      'a menu that is not there',
      'menuId="M_Switching"/></Menu>',
      'menuId="M_Gone"/></Menu>',
      'described.dangling',
    ],
    ['a standard variable that is none', 'id="V_SerialNumber"', 'id="V_Serial"', 'described.dangling'],
    ['two items over each other', 'bitOffset="4"', 'bitOffset="7"', 'described.overlap'],
    [
      'an item past the end',
      'subindex="1" bitOffset="8"',
      'subindex="1" bitOffset="12"',
      'described.pastEnd',
    ],
    ['a variable twice', 'id="V_Damping" index', 'id="V_SP1" index', 'described.twice'],
    ['no identity', /<DeviceIdentity[\s\S]*?<\/DeviceIdentity>/, '', 'described.missing'],
    ['a tag that is not closed', '</RecordItem>', '', 'xml.broken'],
    ['an ampersand alone', 'value="Pressure"', 'value="Pressure & more"', 'xml.broken'],
  ])('%s', (_says, from, to, code) => {
    const described = broken(from, to);
    expect(codes(described)).toContain(code);
    // It was read on: what lies elsewhere is still there.
    expect(described.describer.variables.length).toBeGreaterThan(6);
  });
});
