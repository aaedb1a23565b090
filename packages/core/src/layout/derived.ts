import type { Derived, Image } from '../cell/image.js';
import { identifierOf } from '../cell/identifiers.js';
import type { Codec } from './codec.js';
import { parseExpression, type Expression } from './expression.js';
import { readsOf } from './fieldTypes.js';

/** A derived value as it is now; NaN while something that it needs has no value. */
export interface DerivedReading {
  derived: Derived;
  value: number;
  /** How far the true value may lie off, on either side; 0 when it is exact. */
  uncertainty: number;
  /** `120 ± 10 mm`. */
  text: string;
}

/**
 * Names as expressions know them: signals by their identifier, derived values by theirs. A derived value may use those
 * that stand before it.
 */
export const expressionNames = (image: Image, signals: Codec['signals']): string[] => [
  ...signals.map((s) => identifierOf(s.name)),
  ...derivedOf(image).map((d) => identifierOf(d.name)),
];

export const derivedOf = (image: Image): readonly Derived[] =>
  image.direction === 'feedback' ? image.derived : [];

const digits = (value: number) => String(Number(value.toPrecision(9)));

/**
 * The derived values of an image, as a function of its codec after a `decode`. A field counts with its engineering
 * value; a run of bits with its bits, turned round when it is normally closed, so that 1 always means that it acts.
 * Throws `expression.wrong`.
 */
export function compileDerived(image: Image, codec: Codec): () => DerivedReading[] {
  const places = new Map(codec.signals.map((s, i) => [identifierOf(s.name), i]));
  const parts = derivedOf(image).map((derived) => ({
    derived,
    name: identifierOf(derived.name),
    value: parseExpression(derived.expression),
    uncertainty: derived.uncertainty ? parseExpression(derived.uncertainty) : undefined,
  }));
  const fieldValue = (i: number) => {
    const signal = codec.signals[i]!;
    if (readsOf(signal) === 'boolean') return codec.valueAt(i) !== signal.normallyClosed;
    const isBits = readsOf(signal) === 'unsigned' && !signal.scale && !signal.decimals && !signal.sign;
    if (!isBits) return codec.numbers[i];
    const raw = BigInt(codec.valueAt(i) as number);
    return signal.normallyClosed ? BigInt.asUintN(signal.bits, ~raw) : raw;
  };
  return () => {
    const before = new Map<string, number>();
    const valueOf = (name: string) => {
      const place = places.get(name);
      return place === undefined ? before.get(name) : fieldValue(place);
    };
    return parts.map(({ derived, name, value: expression, uncertainty: off }) => {
      const value = expression.evaluate(valueOf);
      before.set(name, value);
      const uncertainty = off ? off.evaluate(valueOf) : 0;
      const spread = uncertainty > 0 ? ` ± ${digits(uncertainty)}` : '';
      const text = Number.isNaN(value) ? 'no value' : `${digits(value)}${spread} ${derived.unit}`.trim();
      return { derived, value, uncertainty, text };
    });
  };
}

/** Names that an expression reads but the image does not have. */
export function unknownNames(expression: Expression, known: readonly string[]): string[] {
  return expression.names.filter((name) => !known.includes(name));
}

/**
 * Size and place of what a light curtain sees, from its beam bits and the pitch of the beams (from one beam to the next).
 * Beam i stands i pitches above the first. Between the outermost blocked beams and their free neighbours the object's
 * edge may be anywhere: its size is known to one pitch, its middle to half of one. A misaligned or dirty beam reads as a
 * blocked one.
 */
export function lightCurtainSpan(beams: string, pitch: string, unit: string, newId: () => string): Derived[] {
  const none = `bits(${beams}) == 0 ? 0 : `;
  return [
    {
      id: newId(),
      name: `${beams}_size`,
      expression: `${none}(highest(${beams}) - lowest(${beams}) + 1) * ${pitch}`,
      uncertainty: `bits(${beams}) == 0 ? 0 : ${pitch}`,
      unit,
      note: 'blocked span; a misaligned beam looks like a blocked one',
    },
    {
      id: newId(),
      name: `${beams}_middle`,
      expression: `${none}(highest(${beams}) + lowest(${beams})) / 2 * ${pitch}`,
      uncertainty: `bits(${beams}) == 0 ? 0 : ${pitch} / 2`,
      unit,
      note: 'middle of the blocked span above the first beam',
    },
    {
      id: newId(),
      name: `${beams}_in_one_piece`,
      expression: `bits(${beams}) == highest(${beams}) - lowest(${beams}) + 1 || bits(${beams}) == 0`,
      uncertainty: '',
      unit: '',
      note: '0: free beams between blocked ones, as with two objects or one misaligned beam',
    },
  ];
}
