import { describe, expect, test } from 'vitest';
import { nextSeed } from '../../devices/disturbance.js';
import { Field, type ByteOrder } from '../../layout/field.js';
import type { Cell } from '../../cell/model.js';
import type { Link } from '../../cell/link.js';
import { testCell, testDevice, testImage, testLink, withFields } from '../../cell/testCell.js';
import { codecOf, type Codec } from '../../layout/codec.js';
import { fieldTypes, goesAnywhere, limitsOf, readsOf, type FieldType } from '../../layout/fieldTypes.js';
import { structuredText } from './structuredText.js';
import { pathOf } from '../../layout/variables.js';
import type { Image } from '../../layout/image.js';
import { elementsOf, runPack, runUnpack } from './testInterpreter.js';
import type { Scalar } from './testValues.js';

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
