import fc from 'fast-check';
import { Field } from '../../layout/field.js';
import { CommandImage, FeedbackImage } from '../../layout/image.js';
import { factsOfRole, type Role } from '../../layout/role.js';

/** A role that a layout is to have, how often, and in what unit. */
export interface Wanted {
  is: Role;
  count?: number;
  unit?: string;
  /** Of a text, characters. */
  length?: number;
}

interface Piece {
  bits: number;
  /** A number that may stand anywhere, or bits that stand on whole bytes. */
  aligned: boolean;
  fields: (at: number) => object[];
}

const order = fc.constantFrom('little', 'big');
/** A measurement in hundredths or as a real number; a count without a unit. */
const number = (unit: string): fc.Arbitrary<{ type: string }> =>
  unit === ''
    ? fc.record({ type: fc.constantFrom('UINT', 'UDINT'), order })
    : fc.oneof(
        fc.record({
          type: fc.constantFrom('INT', 'DINT'),
          scale: fc.constant({ factor: '1/100', offset: '0' }),
          ...{ order, unit: fc.constant(unit) },
        }),
        fc.record({ type: fc.constant('REAL'), order, unit: fc.constant(unit) }),
      );
const bitsOf = { INT: 16, DINT: 32, REAL: 32, UINT: 16, UDINT: 32 } as Record<string, number>;

/** One role as a piece of an image, in one of the ways in which manuals lay it out. */
function piece({ is, count = 1, unit = '', length = 16 }: Wanted): fc.Arbitrary<Piece> {
  const { reads } = factsOfRole(is);
  const name = is.replaceAll(/[^a-z]/g, '_');
  if (reads === 'text')
    return fc.constantFrom(0, 8).map((prefix) => ({
      bits: length * 8 + prefix,
      aligned: true,
      fields: (at) => [
        {
          ...{ name, type: 'STRING', at, bits: length * 8 + prefix, role: { is } },
          text: { prefix, encoding: 'ascii', pad: 0 },
        },
      ],
    }));
  if (reads === 'number')
    return number(unit).map((one) => ({
      bits: bitsOf[one.type]! * count,
      aligned: true,
      fields: (at) =>
        Array.from({ length: count }, (_, i) => ({
          ...{ ...one, name: `${name}_${i}`, at: at + i * bitsOf[one.type]!, bits: bitsOf[one.type]! },
          role: { is, number: count > 1 ? i + 1 : null },
        })),
    }));
  const single = fc.boolean().map((normallyClosed) => ({
    bits: count,
    aligned: false,
    fields: (at: number) =>
      Array.from({ length: count }, (_, i) => ({
        ...{ name: `${name}_${i}`, type: 'BOOL', at: at + i, bits: 1, normallyClosed },
        role: { is, number: count > 1 ? i + 1 : null },
      })),
  }));
  if (count === 1)
    return fc.oneof(
      single,
      // A bit of a word.
      fc.integer({ min: 0, max: 15 }).map((bit) => ({
        bits: 16,
        aligned: true,
        fields: (at: number) => [{ name, type: 'WORD', at, bits: 16, bitRoles: [{ bit, role: { is } }] }],
      })),
    );
  return fc.oneof(
    single,
    // A string of bits, and a repeated bit: numbered on from the first.
    fc.constant({
      bits: count,
      aligned: true,
      fields: (at: number) => [{ name, type: 'BITS', at, bits: count, role: { is, number: 1 } }],
    }),
    fc.constant({
      bits: count,
      aligned: false,
      fields: (at: number) => [
        { name, type: 'BOOL', at, bits: 1, array: { count, stride: 1 }, role: { is, number: 1 } },
      ],
    }),
  );
}

/** An image with these roles: in any order, with any gaps, in any of the usual types. */
function image(direction: 'command' | 'feedback', wanted: readonly Wanted[]) {
  return fc
    .tuple(...wanted.map(piece))
    .chain((pieces) =>
      fc.tuple(
        fc.shuffledSubarray(pieces, { minLength: pieces.length }),
        fc.array(fc.integer({ min: 0, max: 9 }), { minLength: pieces.length, maxLength: pieces.length }),
      ),
    )
    .map(([pieces, gaps]) => {
      let next = 0;
      const fields = pieces.flatMap((one, i) => {
        const from = next + gaps[i]!;
        const at = one.aligned ? Math.ceil(from / 8) * 8 : from;
        next = at + one.bits;
        return one.fields(at);
      });
      const laid = fields.map((field, i) => Field.parse({ ...field, id: `f${i}` }));
      const whole = { id: direction, instance: 1, start: 0, size: Math.ceil(next / 16) * 2, fields: laid };
      return direction === 'command'
        ? CommandImage.parse({ ...whole, direction })
        : FeedbackImage.parse({ ...whole, direction });
    });
}

/** Layouts of a device: two images that have nothing in common but what they are for. */
export const layouts = (commands: readonly Wanted[], answers: readonly Wanted[]): fc.Arbitrary<Laid> =>
  fc.record({
    command: image('command', commands),
    feedback: image('feedback', answers),
  }) as fc.Arbitrary<Laid>;

export interface Laid {
  command: CommandImage;
  feedback: FeedbackImage;
}
