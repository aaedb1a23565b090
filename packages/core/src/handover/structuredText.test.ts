import { describe, expect, test } from 'vitest';
import { nextSeed } from '../behaviours/disturbance.js';
import { Field } from '../cell/model.js';
import { withFields } from '../cell/testCell.js';
import { compileCodec } from '../layout/codec.js';
import { fieldTypes, limitsOf, type FieldType } from '../layout/fieldTypes.js';
import { toEngineering } from '../layout/scaling.js';
import { structuredText } from './structuredText.js';
import { runPack, runUnpack } from './structuredTextReader.js';

const size = 40;

/** Fields of every type one after the other, some of them off their bytes; the seed turns the order. */
function layoutFor(seed: number): Field[] {
  const types = Object.keys(fieldTypes) as FieldType[];
  const fields: Field[] = [];
  let at = 0;
  let random = seed;
  for (let n = 0; at < size * 8; n += 1) {
    random = nextSeed(random);
    const type = types[Math.abs(random) % types.length]!;
    const bits = fieldTypes[type].bits ?? 1 + (Math.abs(random >> 8) % 40);
    const gap = type === 'BOOL' || type === 'BITS' ? Math.abs(random >> 16) % 5 : 0;
    // Half of the whole types are not on a byte: the code must shift and mask for them.
    at += gap;
    if (at + bits > size * 8) break;
    const scaled = ['INT', 'UINT', 'DINT'].includes(type) && n % 2 === 0;
    fields.push(
      Field.parse({
        id: `f${n}`,
        name: `f${n}`,
        type,
        at,
        bits,
        ...(scaled ? { scale: { numerator: 1, denominator: 4, offset: -2 } } : {}),
      }),
    );
    at += bits;
  }
  return fields;
}

function elementsOf(bytes: Uint8Array, elementBits: number): bigint[] {
  const step = elementBits / 8;
  return Array.from({ length: bytes.length / step }, (_, i) =>
    [...bytes.subarray(i * step, (i + 1) * step)].reduceRight((sum, b) => (sum << 8n) | BigInt(b), 0n),
  );
}

describe('the written code does what the codec does', () => {
  test.each([8, 16, 32] as const)('%i-bit elements: unpack and pack, 40 layouts', (elementBits) => {
    for (let seed = 1; seed <= 40; seed += 1) {
      const fields = layoutFor(seed);
      const codec = compileCodec(fields);
      const bytes = new Uint8Array(size);
      const view = new DataView(bytes.buffer);
      let random = seed;
      fields.forEach((field, i) => {
        random = nextSeed(random);
        const { least, most } = limitsOf(field.type, field.bits);
        const reads = fieldTypes[field.type].reads;
        if (reads === 'float') codec.setValue(i, random / 1024);
        else if (typeof most === 'bigint')
          codec.setValue(i, random < 0 ? (least as bigint) : most - BigInt(random));
        else if (reads === 'boolean') codec.setValue(i, random > 0);
        else codec.setValue(i, Number(least) + (Math.abs(random) % (most - Number(least) + 1)));
      });
      codec.encode(view);

      for (const direction of ['feedback', 'command'] as const) {
        const cell = withFields(fields, { direction, size });
        const code = structuredText({ ...cell, controller: { ...cell.controller, elementBits } });
        const values = Object.fromEntries(
          fields.map((field, i) => {
            const value = codec.valueAt(i);
            if (field.scale) return [field.name, toEngineering(field, Number(value))];
            const whole = fieldTypes[field.type].reads !== 'float' && typeof value === 'number';
            return [field.name, whole ? BigInt(value) : value];
          }),
        );
        if (direction === 'feedback')
          expect(runUnpack(code, 'pump_m1_unpack', elementsOf(bytes, elementBits), elementBits)).toEqual(
            values,
          );
        else
          expect(runPack(code, 'pump_m1_pack', values, (size * 8) / elementBits, elementBits)).toEqual(
            elementsOf(bytes, elementBits),
          );
      }
    }
  });

  test('a scaled value that does not fit stops at the end of the range', () => {
    const hertz = Field.parse({
      id: 'f',
      name: 'hz',
      type: 'INT',
      at: 0,
      bits: 16,
      scale: { numerator: 1, denominator: 100, offset: 0 },
    });
    const code = structuredText(withFields([hertz], { direction: 'command', size: 2 }));
    expect(runPack(code, 'pump_m1_pack', { hz: 1000 }, 1, 16)).toEqual([0x7fffn]);
    expect(runPack(code, 'pump_m1_pack', { hz: -2.5 }, 1, 16)).toEqual([BigInt.asUintN(16, -250n)]);
  });
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
