import type { Derived, Image } from './image.js';
import { identifierOf } from '../entries/identifiers.js';
import { Problem } from '../messages/problem.js';
import { codecOf, type Codec } from './codec.js';
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

export const derivedOf = (image: Image): readonly Derived[] =>
  image.direction === 'feedback' ? image.derived : [];

const digits = (value: number) => String(Number(value.toPrecision(9)));

/**
 * The derived values of an image, as a function of its codec after a `decode`. A field counts with its engineering
 * value; a run of bits with its bits, turned round when it is normally closed, so that 1 always means that it acts.
 * An expression that is wrong has no value, and the checks say why.
 */
export function compileDerived(image: Image, codec: Codec): () => DerivedReading[] {
  const places = new Map(codec.signals.map((s, i) => [identifierOf(s.name), i]));
  const parts = derivedOf(image).map((derived) => ({
    derived,
    name: identifierOf(derived.name),
    value: readable(derived.expression),
    uncertainty: readable(derived.uncertainty),
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
      const value = expression ? expression.evaluate(valueOf) : NaN;
      before.set(name, value);
      const uncertainty = off ? off.evaluate(valueOf) : 0;
      const spread = uncertainty > 0 ? ` ± ${digits(uncertainty)}` : '';
      const text = Number.isNaN(value) ? 'no value' : `${digits(value)}${spread} ${derived.unit}`.trim();
      return { derived, value, uncertainty, text };
    });
  };
}

/** An expression that can be read; undefined for an empty or a wrong one. */
function readable(text: string): Expression | undefined {
  try {
    return text ? parseExpression(text) : undefined;
  } catch (error) {
    if (error instanceof Problem) return undefined;
    throw error;
  }
}

/** The derived values of an image for bytes as they come; none while there are too few. */
export function derivedReader(image: Image): (bytes: Uint8Array | undefined) => DerivedReading[] {
  const codec = codecOf(image);
  const derive = compileDerived(image, codec);
  return (bytes) => {
    if (!bytes || bytes.length < codec.bytes) return [];
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    return derive();
  };
}

/** Whether a derived value reads a signal or another derived value of this name. */
export const readsName = ({ expression, uncertainty }: Derived, name: string): boolean =>
  [expression, uncertainty].some((text) => readable(text)?.names.includes(identifierOf(name)));

/**
 * Size and place of what a light curtain sees, from its beam bits and the pitch of the beams (from one beam to the
 * next). Beam i stands i pitches above the first. Between the outermost blocked beams and their free neighbours the
 * object's edge may be anywhere: its size is known to one pitch, its middle to half of one. A misaligned or dirty beam
 * reads as a blocked one.
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
