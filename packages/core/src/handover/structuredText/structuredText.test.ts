import { describe, expect, test } from 'vitest';
import { nextSeed } from '../../devices/disturbance.js';
import { Field, type ByteOrder } from '../../layout/field.js';
import type { Cell } from '../../cell/model.js';
import type { Link } from '../../cell/link.js';
import { testCell, testDevice, testImage, testLink, withFields } from '../../cell/testCell.js';
import { codecOf, type Codec } from '../../layout/codec.js';
import { fieldTypes, goesAnywhere, limitsOf, readsOf, type FieldType } from '../../layout/fieldTypes.js';
import { structuredText } from './structuredText.js';
import { bothSides } from '../../layout/address.js';
import { bitOfAddress } from '../../layout/readAddress.js';
import { sceneOf } from '../../cell/scene.js';
import { derivedReader, type DerivedReading } from '../../layout/derived.js';
import { pathOf } from '../../layout/variables.js';
import type { Image } from '../../layout/image.js';
import { runPack, runUnpack, type Scalar } from './testInterpreter.js';

const size = 40;

/**
 * Fields of every type one after the other, on their bytes or off them where they may be; the seed turns the order.
 * Some whole numbers are scaled, some have their sign in another bit.
 */
function layoutFor(seed: number, order: ByteOrder): Field[] {
  // Where words are swapped, a value of more than one byte takes up whole words.
  const step = order.endsWith('Swapped') ? 16 : 1;
  const types = Object.keys(fieldTypes) as FieldType[];
  const fields: Field[] = [Field.parse({ id: 'minus', name: 'minus', type: 'BITS', at: 0, bits: 16 })];
  let at = 16;
  let random = seed;
  for (let n = 0; at < size * 8; n += 1) {
    random = nextSeed(random);
    const type = types[Math.abs(random) % types.length]!;
    const chosen = 1 + (Math.abs(random >> 8) % 40);
    const own = { BCD: 4 + (chosen & 28), STRING: 24, BYTES: 24 } as Record<string, number>;
    const bits = fieldTypes[type].bits ?? own[type] ?? chosen;
    const place = goesAnywhere(type) ? at + (Math.abs(random >> 16) % 5) : Math.ceil(at / 8) * 8;
    at = Math.ceil(place / step) * step;
    if (at + bits + 16 > size * 8) break;
    const whole = ['INT', 'UINT', 'DINT'].includes(type);
    fields.push(
      Field.parse({
        id: `f${n}`,
        name: `f${n}`,
        type,
        at,
        bits,
        ...(whole && n % 2 === 0 ? { scale: { factor: '1/4', offset: '-2' } } : {}),
        ...(type === 'UINT' && n % 3 === 0 ? { decimals: { way: 'fixed', places: 1 } } : {}),
        ...(type === 'UDINT' ? { sign: { way: 'offset' } } : {}),
        ...(type === 'BITS' && bits > 1 && n % 2 === 0 ? { sign: { way: 'complement' } } : {}),
      }),
    );
    at += bits;
  }
  return fields;
}

function elementsOf(bytes: Uint8Array, elementBits: number, order: 'little' | 'big'): bigint[] {
  const step = elementBits / 8;
  return Array.from({ length: bytes.length / step }, (_, i) => {
    const own = [...bytes.subarray(i * step, (i + 1) * step)];
    return (order === 'little' ? own.reverse() : own).reduce((sum, b) => (sum << 8n) | BigInt(b), 0n);
  });
}

/** Values over the whole range of each type. */
function fill(codec: Codec, seed: number): void {
  let random = seed;
  codec.signals.forEach((signal, i) => {
    random = nextSeed(random);
    const { minimum, maximum } = limitsOf(signal.type, signal.bits);
    const reads = readsOf(signal);
    if (reads === 'float') codec.setValue(i, random / 1024);
    else if (reads === 'bytes') codec.setValue(i, 'A5 5A FF');
    else if (reads === 'text') codec.setValue(i, 'Rad');
    else if (typeof maximum === 'bigint')
      codec.setValue(i, random < 0 ? (minimum as bigint) : maximum - BigInt(Math.abs(random)));
    else if (reads === 'boolean') codec.setValue(i, random > 0);
    else codec.setValue(i, Number(minimum) + (Math.abs(random) % (maximum - Number(minimum) + 1)));
  });
}

/** The members of the STRUCT as the codec has them, by path. */
function valuesOf(codec: Codec, image: Image): Record<string, Scalar> {
  return Object.fromEntries(
    codec.signals.flatMap((signal, i): [string, Scalar][] => {
      const value = codec.valueAt(i);
      const path = pathOf(image, signal);
      if (signal.type === 'BYTES')
        return String(value)
          .split(' ')
          .map((h, n) => [`${path}[${n}]`, BigInt(parseInt(h, 16))]);
      if (signal.scale ?? signal.decimals ?? signal.sign) return [[path, codec.numbers[i]!]];
      const whole = readsOf(signal) !== 'float' && typeof value === 'number';
      return [[path, whole ? BigInt(value) : value]];
    }),
  );
}

interface Setting {
  elementBits: 8 | 16 | 32 | 64;
  elementOrder: 'little' | 'big';
  order: ByteOrder;
  swapped: boolean;
}

const settings: Setting[] = [
  { elementBits: 8, elementOrder: 'little', order: 'little', swapped: false },
  { elementBits: 16, elementOrder: 'little', order: 'little', swapped: false },
  { elementBits: 32, elementOrder: 'little', order: 'little', swapped: false },
  { elementBits: 64, elementOrder: 'little', order: 'bigSwapped', swapped: false },
  { elementBits: 16, elementOrder: 'big', order: 'big', swapped: false },
  { elementBits: 16, elementOrder: 'little', order: 'big', swapped: true },
  { elementBits: 32, elementOrder: 'big', order: 'littleSwapped', swapped: true },
];

describe('the written code does what the codec does', () => {
  test.each(settings)(
    '$elementBits-bit elements, $elementOrder; image $order, swapped $swapped: 20 layouts',
    ({ elementBits, elementOrder, order, swapped }) => {
      for (let seed = 1; seed <= 20; seed += 1) {
        const fields = layoutFor(seed, order);
        for (const direction of ['feedback', 'command'] as const) {
          const plain = withFields(fields, { direction, size });
          const cell: Cell = {
            ...plain,
            controller: { ...plain.controller, elementBits, elementOrder },
            devices: plain.devices.map((d) => ({
              ...d,
              links: d.links.map((l) => ({ ...l, [direction]: { ...l[direction], order, swapped } })),
            })),
          };
          const image = cell.devices[0]!.links[0]![direction];
          const codec = codecOf(image);
          const bytes = new Uint8Array(size);
          const view = new DataView(bytes.buffer);
          fill(codec, seed);
          codec.encode(view);
          codec.decode(view);
          const code = structuredText(cell);
          const values = valuesOf(codec, image);
          if (direction === 'feedback')
            expect(runUnpack(code, 'pump_m1_unpack', elementsOf(bytes, elementBits, elementOrder))).toEqual(
              values,
            );
          else
            expect(runPack(code, 'pump_m1_pack', values)).toEqual(
              elementsOf(bytes, elementBits, elementOrder),
            );
        }
      }
    },
  );

  test('a scaled value that does not fit stops at the end of the range', () => {
    const hertz = Field.parse({
      id: 'f',
      name: 'hz',
      type: 'INT',
      at: 0,
      bits: 16,
      scale: { factor: '1/100', offset: '0' },
    });
    const code = structuredText(withFields([hertz], { direction: 'command', size: 2 }));
    expect(runPack(code, 'pump_m1_pack', { hz: 1000 })).toEqual([0x7fffn]);
    expect(runPack(code, 'pump_m1_pack', { hz: -2.5 })).toEqual([BigInt.asUintN(16, -250n)]);
  });
});

/**
 * A controller with each kind of element and three devices: EtherNet/IP, Modbus with blocks of two register tables, and
 * a PROFINET plan. Registers are numbers of 16 bits (Modbus Application Protocol V1.1b3, 4.2: high byte first), however
 * the controller fills its elements from the bytes of others; nothing is set for them.
 */
describe('a mixed cell, without any setting', () => {
  const block = (part: object) => ({
    ...{ id: '', poll: 100_000, direction: 'feedback', fresh: null, age: null },
    ...part,
  });
  const mixed = (elementBits: 8 | 16 | 32, elementOrder: 'little' | 'big'): Cell => {
    const feedback = {
      ...testImage({ size, fields: layoutFor(3, 'little') }),
      direction: 'feedback',
    } as const;
    const registers = { ...feedback, order: 'big', fields: layoutFor(5, 'big') } as const;
    const links = [
      { ...testLink('ethernet-ip'), feedback },
      {
        ...testLink('modbus-tcp', {
          blocks: [
            block({ id: 'b1', name: 'state', table: 'input', start: 1000, count: 12, at: 0 }),
            block({ id: 'b2', name: 'values', table: 'holding', start: 3000, count: 8, at: 24 }),
          ] as never,
        }),
        feedback: registers,
      },
      { ...testLink('profinet'), feedback: { ...registers, order: 'big' } },
    ] as Link[];
    const devices = links.map((link, i) => testDevice({ id: `d${i}`, name: `unit_m${i}`, links: [link] }));
    const plain = testCell(devices);
    return { ...plain, controller: { ...plain.controller, elementBits, elementOrder } };
  };

  test.each([
    [8, 'little'],
    [16, 'little'],
    [32, 'little'],
    [16, 'big'],
    [32, 'big'],
  ] as const)('a controller of %i-bit elements, filled %s end first', (elementBits, elementOrder) => {
    const cell = mixed(elementBits, elementOrder);
    const code = structuredText(cell);
    cell.devices.forEach(({ name, links: [link] }, seed) => {
      const codec = codecOf(link!.feedback);
      const bytes = new Uint8Array(size);
      fill(codec, seed + 1);
      codec.encode(new DataView(bytes.buffer));
      codec.decode(new DataView(bytes.buffer));
      const registers = link!.protocol === 'modbus-tcp';
      const [bits, order] = registers ? ([16, 'big'] as const) : [elementBits, elementOrder];
      expect(runUnpack(code, `${name}_unpack`, elementsOf(bytes, bits, order)), name).toEqual(
        valuesOf(codec, link!.feedback),
      );
    });
  });

  test('what a link says counts before that', () => {
    const cell = mixed(16, 'little');
    const bits = (of: Cell) =>
      /unit_m1_feedback_raw_t : ARRAY\[0\.\.(\d+)\] OF (\w+)/.exec(structuredText(of))!.slice(1);
    expect(bits(cell)).toEqual(['19', 'WORD']);
    cell.devices[1]!.links[0]!.elements = { bits: 32, order: 'little' };
    expect(bits(cell)).toEqual(['9', 'DWORD']);
  });
});

test('sign from another bit, decimal point from another field: both ways', () => {
  const part = (f: object) => Field.parse(f);
  const fields = [
    part({
      id: 'w',
      name: 'weight',
      type: 'UDINT',
      at: 0,
      bits: 32,
      sign: { way: 'bit', field: 's', bit: 3, inverted: false },
      decimals: { way: 'field', field: 'd' },
    }),
    part({ id: 's', name: 'state', type: 'BYTE', at: 32, bits: 8 }),
    part({ id: 'd', name: 'places', type: 'USINT', at: 40, bits: 8 }),
  ];
  const bytes = Uint8Array.of(0x39, 0x30, 0, 0, 0x08, 2);
  const unpacked = runUnpack(
    structuredText(withFields(fields, { size: 6 })),
    'pump_m1_unpack',
    elementsOf(bytes, 16, 'little'),
  );
  expect(unpacked).toEqual({ weight: -123.45, state: 8n, places: 2n });
  const packed = runPack(
    structuredText(withFields(fields, { direction: 'command', size: 6 })),
    'pump_m1_pack',
    { ...unpacked, state: 0n },
  );
  expect(packed).toEqual(elementsOf(bytes, 16, 'little'));
});

describe('the written text', () => {
  test('names that code cannot use are made legal and stay different', () => {
    const named = (id: string, at: number, name: string) =>
      Field.parse({ id, name, type: 'BOOL', at, bits: 1 });
    const code = structuredText(
      withFields([
        named('a', 0, 'Tür auf'),
        named('b', 1, 'Tuer  auf'),
        named('c', 2, 'IF'),
        named('d', 3, '2nd'),
      ]),
    );
    expect(code).toContain('Tuer_auf : BOOL');
    expect(code).toContain('Tuer_auf_2 : BOOL');
    expect(code).toContain('IF_1 : BOOL');
    expect(code).toContain('n_2nd : BOOL');
  });

  test('a note cannot end its comment', () => {
    const field = Field.parse({
      id: 'a',
      name: 'a',
      type: 'BOOL',
      at: 0,
      bits: 1,
      note: 'x *) ; evil := 1; (*',
    });
    expect(structuredText(withFields([field]))).not.toContain('x *)');
  });

  test('a field past the end is left out, and an image without fields is still legal', () => {
    const code = structuredText(
      withFields([Field.parse({ id: 'a', name: 'late', type: 'UINT', at: 88, bits: 16 })], { size: 11 }),
    );
    expect(code).not.toContain('late');
    expect(code).toContain('no_field_yet : BOOL;');
  });
});

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
