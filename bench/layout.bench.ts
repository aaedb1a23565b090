import { codecOf, FeedbackImage, Field, type FieldType } from '@fadenkreuz/core';
import { Parser } from 'binary-parser';
import { bench, describe } from 'vitest';

/**
 * An image of 200 mixed fields: 80 bits, 40 16-bit and 30 32-bit whole numbers, 20 REALs, 30 scaled 16-bit numbers.
 * Ours beside DataView code written by hand for this very image and beside a compiled parser of the registry. Only the
 * ratios of one run count.
 */
interface Spec {
  type: FieldType;
  bits: number;
  scaled: boolean;
}
const specs: Spec[] = [
  ...Array.from({ length: 80 }, (): Spec => ({ type: 'BOOL', bits: 1, scaled: false })),
  ...Array.from({ length: 40 }, (_, i): Spec => ({ type: i % 2 ? 'INT' : 'UINT', bits: 16, scaled: false })),
  ...Array.from({ length: 30 }, (_, i): Spec => ({
    type: i % 2 ? 'DINT' : 'UDINT',
    bits: 32,
    scaled: false,
  })),
  ...Array.from({ length: 20 }, (): Spec => ({ type: 'REAL', bits: 32, scaled: false })),
  ...Array.from({ length: 30 }, (): Spec => ({ type: 'INT', bits: 16, scaled: true })),
];
let at = 0;
const fields = specs.map(({ type, bits, scaled }, i) => {
  const field = Field.parse({
    ...{ id: `f${i}`, name: `f${i}`, type, at, bits },
    scale: scaled ? { factor: '1/100', offset: '-10' } : null,
  });
  at += bits;
  return field;
});
const size = at / 8;
const image = FeedbackImage.parse({ id: 'i', instance: 1, size, start: 0, direction: 'feedback', fields });
const codec = codecOf(image);

/** Small whole numbers and REALs that are none of IEEE 754's odd ones, different in each image. */
const images = Array.from({ length: 64 }, (_, n) => {
  const view = new DataView(new ArrayBuffer(size));
  codec.decode(view);
  specs.forEach(({ type, bits }, i) =>
    codec.setValue(
      i,
      bits === 1 ? (n + i) % 3 === 0 : type === 'REAL' ? (n * 31 + i) / 8 : (n * 131 + i * 7) % 30_000,
    ),
  );
  codec.encode(view);
  return view;
});
let next = 0;
const turn = () => images[(next = (next + 1) & 63)]!;

/**
 * What a careful programmer would write for this image: one expression a field, straight into an object. The text is
 * put together here, so that nobody has to read 200 lines.
 */
const byHandIntoObject = new Function(
  'view',
  `${Array.from({ length: 10 }, (_, b) => `const b${b} = view.getUint8(${b});`).join('')}
   return {${specs.map(({ type, scaled }, i) => `f${i}: ${readText(i, type, scaled)}`).join(', ')}};`,
) as (view: DataView) => Record<string, number | boolean>;

function readText(i: number, type: FieldType, scaled: boolean): string {
  const byte = fields[i]!.at >> 3;
  if (type === 'BOOL') return `(b${byte} & ${1 << (i & 7)}) !== 0`;
  const method = {
    INT: 'getInt16',
    UINT: 'getUint16',
    DINT: 'getInt32',
    UDINT: 'getUint32',
    REAL: 'getFloat32',
  };
  const read = `view.${method[type as 'INT']}(${byte}, true)`;
  return scaled ? `${read} / 100 - 10` : read;
}
const names = fields.map((f) => f.name);

const typed = new Float64Array(200);
function byHandIntoArray(view: DataView): Float64Array {
  for (let i = 0; i < 80; i += 1) typed[i] = (view.getUint8(i >> 3) >> (i & 7)) & 1;
  for (let i = 0; i < 40; i += 1)
    typed[80 + i] = i % 2 ? view.getInt16(10 + i * 2, true) : view.getUint16(10 + i * 2, true);
  for (let i = 0; i < 30; i += 1)
    typed[120 + i] = i % 2 ? view.getInt32(90 + i * 4, true) : view.getUint32(90 + i * 4, true);
  for (let i = 0; i < 20; i += 1) typed[150 + i] = view.getFloat32(210 + i * 4, true);
  for (let i = 0; i < 30; i += 1) typed[170 + i] = view.getInt16(290 + i * 2, true) / 100 - 10;
  return typed;
}

const parser = new Parser().endianess('little');
for (let byte = 0; byte < 10; byte += 1) parser.uint8(`flags${byte}`);
specs.slice(80).forEach(({ type, scaled }, i) => {
  const name = names[80 + i]!;
  if (scaled) parser.int16(name, { formatter: (raw: number) => raw / 100 - 10 });
  else if (type === 'INT') parser.int16(name);
  else if (type === 'UINT') parser.uint16(name);
  else if (type === 'DINT') parser.int32(name);
  else if (type === 'UDINT') parser.uint32(name);
  else parser.floatle(name);
});

/** Its own bit fields turn their order with the byte order, so the bits are taken from ten bytes. */
function byParser(view: DataView): Record<string, number> {
  const values = parser.parse(new Uint8Array(view.buffer)) as Record<string, number>;
  for (let i = 0; i < 80; i += 1) values[names[i]!] = (values[`flags${i >> 3}`]! >> (i & 7)) & 1;
  return values;
}

// All of them read the same, or their speeds could not be compared.
const sample = images[5]!;
codec.decode(sample);
const objectRead = byHandIntoObject(sample);
const parsed = byParser(sample);
byHandIntoArray(sample).forEach((value, i) => {
  const all = [codec.numbers[i]!, Number(objectRead[names[i]!]), parsed[names[i]!]!];
  if (all.some((other) => Math.abs(other - value) > 1e-9))
    throw new Error(`${names[i]} differs: ${value}, ${all}`);
});

let sum = 0;

describe('decode an image of 200 fields', () => {
  bench('our compiled codec', () => {
    codec.decode(turn());
    sum += codec.numbers[90]!;
  });
  bench('our compiled codec, and what changed', () => {
    sum += codec.decodeChanges(turn());
  });
  bench('by hand into a new object', () => {
    sum += Number(byHandIntoObject(turn())['f90']);
  });
  bench('by hand into a typed array', () => {
    sum += byHandIntoArray(turn())[90]!;
  });
  bench('binary-parser, compiled', () => {
    sum += byParser(turn())['f90']!;
  });
});

const out = new DataView(new ArrayBuffer(size));
const values = images.map((view) => (codec.decode(view), Float64Array.from(codec.numbers)));
const objects = images.map(byHandIntoObject);

const byHandFromObject = new Function(
  'from',
  'view',
  specs
    .map(({ type, scaled }, i) => {
      const byte = fields[i]!.at >> 3;
      const method = {
        INT: 'setInt16',
        UINT: 'setUint16',
        DINT: 'setInt32',
        UDINT: 'setUint32',
        REAL: 'setFloat32',
      };
      if (type !== 'BOOL')
        return `view.${method[type as 'INT']}(${byte}, ${scaled ? `Math.round((from.f${i} + 10) * 100)` : `from.f${i}`}, true);`;
      if (i % 8 !== 0) return '';
      const bits = Array.from({ length: 8 }, (_, b) => `(from.f${i + b} ? ${1 << b} : 0)`).join(' | ');
      return `view.setUint8(${byte}, ${bits});`;
    })
    .join('\n'),
) as (from: Record<string, number | boolean>, view: DataView) => void;
codec.encodeNumbers(values[9]!, out);
const ours = new Uint8Array(out.buffer.slice(0));
byHandFromObject(objects[9]!, out);
if (!ours.every((byte, i) => byte === new Uint8Array(out.buffer)[i]))
  throw new Error('the two encoders differ');

describe('encode an image of 200 fields', () => {
  bench('our compiled codec, every value checked against its range', () => {
    codec.encodeNumbers(values[(next = (next + 1) & 63)]!, out);
    sum += out.getUint8(3);
  });
  bench('by hand from an object, unchecked', () => {
    byHandFromObject(objects[(next = (next + 1) & 63)]!, out);
    sum += out.getUint8(3);
  });
});

export { sum };
