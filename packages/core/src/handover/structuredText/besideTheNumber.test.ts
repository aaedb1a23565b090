import { describe, expect, test } from 'vitest';
import { nextSeed } from '../../devices/disturbance.js';
import { Field } from '../../layout/field.js';
import { testCell, testDevice, testImage, testLink, withFields } from '../../cell/testCell.js';
import { codecOf } from '../../layout/codec.js';
import { structuredText } from './structuredText.js';
import { bothSides } from '../../layout/address.js';
import { bitOfAddress } from '../../layout/readAddress.js';
import { sceneOf } from '../../cell/scene.js';
import { derivedReader, type DerivedReading } from '../../layout/derived.js';
import { elementsOf, runPack, runUnpack } from './testInterpreter.js';
import type { Scalar } from './testValues.js';

describe('what belongs to a value beside its number', () => {
  const part = (f: object) => Field.parse({ bits: 16, ...f });
  const code = (fields: Field[], image: object = {}) =>
    structuredText(withFields(fields, { size: 8, ...image }));
  const unpack = (text: string, ...bytes: number[]) =>
    runUnpack(
      text,
      'pump_m1_unpack',
      elementsOf(
        Uint8Array.from({ length: 8 }, (_, i) => bytes[i] ?? 0),
        16,
        'little',
      ),
    );
  const pack = (text: string, values: Record<string, Scalar>) => runPack(text, 'pump_m1_pack', values);

  test('a special number is no measurement: 0, and a code says which it is', () => {
    const score = part({
      ...{ id: 's', name: 'overall_score', type: 'INT', at: 0 },
      ...{ scale: { factor: '1/100', offset: '0' }, unit: '%' },
      specials: [
        { value: -1, means: 'no reading' },
        { value: 32767, means: 'overrange' },
      ],
    });
    const plain = part({
      id: 'p',
      name: 'plain',
      type: 'UINT',
      at: 16,
      specials: [{ value: 9, means: 'fault' }],
    });
    const text = code([score, plain]);
    const of = (raw: number) => unpack(text, raw & 0xff, (raw >> 8) & 0xff, 9);
    expect(of(9850)).toMatchObject({ overall_score: 98.5, overall_score_special: 0n });
    expect(of(-1)).toMatchObject({
      overall_score: 0,
      overall_score_special: 1n,
      plain: 0n,
      plain_special: 4n,
    });
    expect(of(32767)).toMatchObject({ overall_score: 0, overall_score_special: 2n });
    expect(text).toContain('1 = no reading');
    const command = code([score, plain], { direction: 'command' });
    expect(pack(command, { overall_score: 5, overall_score_special: 1n, plain: 3n })[0]).toBe(0xffffn);
    expect(pack(command, { overall_score: 5, plain_special: 4n }).slice(0, 2)).toEqual([500n, 9n]);
  });

  test('what is sent stays within its limits, in units and as a number', () => {
    const fields = [
      part({
        ...{ id: 'h', name: 'hz', type: 'INT', at: 0, scale: { factor: '1/100', offset: '0' } },
        limits: { minimum: '5', maximum: '50' },
      }),
      part({ id: 'n', name: 'count', type: 'UINT', at: 16, limits: { minimum: null, maximum: '20/3' } }),
      part({ id: 'w', name: 'state', type: 'WORD', at: 32, limits: { minimum: '2', maximum: null } }),
    ];
    const text = code(fields, { direction: 'command' });
    expect(pack(text, { hz: 80, count: 9n, state: 0n })).toEqual([5000n, 6n, 2n, 0n]);
    expect(pack(text, { hz: 1, count: 3n, state: 7n })).toEqual([500n, 3n, 7n, 0n]);
    expect(text).toContain('minimum 5; maximum 50');
  });

  test('groups are arrays of structures, and a name path is that of the code', () => {
    const image = {
      size: 8,
      groups: [
        { id: 'c', name: 'channel', count: 2, stride: 32, parent: null, first: 1 },
        { id: 'i', name: 'input', count: 2, stride: 8, parent: 'c', first: 0 },
      ],
    };
    const fields = [
      part({ id: 'l', name: 'level', type: 'INT', at: 0, group: 'c' }),
      part({
        id: 'b',
        name: 'beam',
        type: 'BOOL',
        bits: 1,
        at: 16,
        group: 'i',
        array: { count: 3, stride: 1 },
      }),
    ];
    const text = code(fields, image);
    expect(text).toContain('channel : ARRAY[1..2] OF pump_m1_feedback_channel_t;');
    const values = unpack(text, 0x10, 0, 0b101, 0b010, 0xfe, 0xff, 0, 0b100);
    expect(values).toMatchObject({
      ...{ 'channel[1].level': 16n, 'channel[2].level': -2n },
      ...{ 'channel[1].input[0].beam[2]': true, 'channel[1].input[1].beam[1]': true },
      ...{ 'channel[2].input[1].beam[2]': true, 'channel[2].input[1].beam[0]': false },
    });
    const own = withFields(fields, image);
    const place = { device: own.devices[0]!, link: own.devices[0]!.links[0]! };
    const scene = sceneOf(
      { ...own, controller: { ...own.controller, notation: 'path' } },
      { ...place, image: place.link.feedback },
    );
    expect(bothSides(scene, 7 * 8 + 2).controller.text).toBe('pump_m1.fb.channel[2].input[1].beam[2]');
    expect(bitOfAddress('pump_m1.fb.channel[2].input[1].beam[2]', scene)).toBe(58);
  });

  test.each([
    ['ends at NUL', { prefix: 0, pad: 0 }, [0x52, 0x61, 0x64, 0, 0x78, 0], 'Rad'],
    ['filled with blanks', { prefix: 0, pad: 32 }, [0x52, 0x20, 0x64, 0x20, 0x20, 0x20], 'R d'],
    ['counted by a byte', { prefix: 8, pad: 0 }, [3, 0x52, 0x61, 0x64, 0, 0], 'Rad'],
    ['counted by a word', { prefix: 16, pad: 0 }, [2, 0, 0x52, 0x61, 0, 0], 'Ra'],
    ['counted beyond its room', { prefix: 8, pad: 0 }, [99, 0x52, 0x61, 0x64, 0x65, 0x66], 'Radef'],
  ])('text is a STRING: %s', (_title, form, bytes, characters) => {
    const field = part({
      id: 't',
      name: 't',
      type: 'STRING',
      at: 0,
      bits: 48,
      text: { encoding: 'ascii', ...form },
    });
    const codec = codecOf(withFields([field], { size: 8 }).devices[0]!.links[0]!.feedback);
    codec.decode(new DataView(Uint8Array.from([...bytes, 0, 0]).buffer));
    expect(codec.valueAt(0)).toBe(characters);
    expect(unpack(code([field]), ...bytes)).toEqual({ t: characters });
    const back = new Uint8Array(8);
    codec.setValue(0, characters);
    codec.encode(new DataView(back.buffer));
    expect(pack(code([field], { direction: 'command' }), { t: characters })).toEqual(
      elementsOf(back, 16, 'little'),
    );
  });

  test.each([
    ['twice * 2 + 1'],
    ['bits(beams) == 0 ? 0 : (highest(beams) - lowest(beams) + 1) * 10'],
    ['speed == 0 ? 0 : twice / speed'],
    ['round(speed / 3) % 5 - abs(speed)'],
    ['min(speed, twice, 4) + max(7, twice)'],
    ['(beams & 12) != 0 && !ready ? highest(beams | 1) : -1.5'],
    ['1e-7 * twice'],
  ])('derived values are computed as the codec does: %s', (expression) => {
    const fields = [
      part({ id: 'a', name: 'speed', type: 'INT', at: 0 }),
      part({ id: 'b', name: 'twice', type: 'INT', at: 16, scale: { factor: '1/2', offset: '0' } }),
      part({ id: 'c', name: 'beams', type: 'BITS', bits: 12, at: 32, normallyClosed: true }),
      part({ id: 'd', name: 'ready', type: 'BOOL', bits: 1, at: 47, normallyClosed: true }),
    ];
    const value = {
      id: 'v',
      name: 'out',
      expression,
      uncertainty: 'speed < 0 ? 0 : 2',
      unit: 'mm',
      note: '',
    };
    const further = { ...value, id: 'w', name: 'behind', expression: 'out + 1', uncertainty: '' };
    const image = { size: 8, derived: [value, further] };
    const text = code(fields, image);
    const derive = derivedReader(withFields(fields, image).devices[0]!.links[0]!.feedback);
    let seed = 7;
    for (let n = 0; n < 40; n += 1) {
      const bytes = Uint8Array.from({ length: 8 }, () => (seed = nextSeed(seed)) & 0xff);
      if (n < 3) bytes.fill(n === 0 ? 0 : 0xff, 0, 6);
      const [out, behind] = derive(bytes) as [DerivedReading, DerivedReading];
      const values = unpack(text, ...bytes);
      expect(values['out'] as number).toBeCloseTo(out.value, 9);
      expect(values['out_uncertainty']).toBe(out.uncertainty);
      expect(values['behind'] as number).toBeCloseTo(behind.value, 9);
    }
  });

  test('what is computed from a special number says so; what cannot be a number is left out', () => {
    const fields = [
      part({ id: 'a', name: 'level', type: 'INT', at: 0, specials: [{ value: -1, means: 'fault' }] }),
      part({ id: 't', name: 'text', type: 'STRING', at: 16, bits: 32 }),
    ];
    const derived = ['level * 2', 'text + 1'].map((expression, i) => ({
      ...{ id: `v${i}`, name: `out${i}`, expression, uncertainty: '', unit: '', note: '' },
    }));
    const text = code(fields, { derived });
    expect(unpack(text, 5)).toMatchObject({ out0: 10, out0_special: 0n });
    expect(unpack(text, 0xff, 0xff)).toMatchObject({ out0: 0, out0_special: 4n });
    expect(text).toContain('out1 is not computed: text cannot be read as a number');
  });

  test('freshness and age come from the age of the last answer, not from registers', () => {
    const block = { direction: 'feedback', table: 'input', poll: 400_000 } as const;
    const blocks = [
      { ...block, id: 'b1', name: 'state', start: 0, count: 2, at: 0, fresh: 65, age: 6 },
      { ...block, id: 'b2', name: 'heat', start: 90, count: 1, at: 4, fresh: 66, age: null },
    ];
    const feedback = testImage({
      size: 10,
      order: 'big',
      fields: [
        part({ id: 'v', name: 'level', type: 'INT', at: 16 }),
        part({ id: 'a', name: 'age', type: 'UINT', at: 48, unit: 'ms' }),
        part({ id: 'f', name: 'fresh', type: 'BOOL', bits: 1, at: 65 }),
        part({ id: 'w', name: 'states', type: 'USINT', bits: 8, at: 64 }),
        part({ id: 'n', name: 'nobody', type: 'USINT', bits: 8, at: 72 }),
      ],
    });
    const link = testLink('modbus-tcp', { blocks: blocks as never, timeoutMultiplier: 4, feedback });
    const cell = testCell([testDevice({ name: 'oven_m1', links: [link] })]);
    const text = structuredText(cell);
    expect(text).toContain('ARRAY[0..2] OF WORD');
    expect(text).not.toMatch(/raw\[[3-9]\]/);
    expect(text).toContain('computed from the age of the last answer of state');
    expect(text).toContain('no register brings it');
    const of = (...ages: bigint[]) => runUnpack(text, 'oven_m1_unpack', [1n, 42n, 7n], ages);
    expect(of(1600n, 9999n)).toEqual({ level: 42n, age: 1600n, fresh: true, states: 2n, nobody: 0n });
    expect(of(1601n, 3n)).toEqual({ level: 42n, age: 1601n, fresh: false, states: 4n, nobody: 0n });
    expect(of(70_000n, 0n)['age']).toBe(65_535n);
  });
});
