import Fraction from 'fraction.js';
import type { Field } from './field.js';
import type { Image } from './image.js';
import { signalsOf, type Signal } from './signals.js';

/** What a described layout is made of. */
export interface DescribedLayout {
  size: number;
  order: Image['order'];
  groups: Image['groups'];
  fields: Field[];
}

const bitsText = ({ at, bits }: Signal) => (bits === 1 ? `bit ${at}` : `bits ${at} to ${at + bits - 1}`);
const overlaps = (a: Signal, b: Signal) => a.at < b.at + b.bits && b.at < a.at + a.bits;
const number = ({ type, bits }: Signal) => !['STRING', 'BYTES'].includes(type) && bits > 1;

/** Engineering value of a raw 1: the factor, with its fixed decimals. Null where the layout does not say one. */
function factorOf({ scale, decimals }: Signal): Fraction | null {
  if (!scale && decimals?.way !== 'fixed') return null;
  const places = decimals?.way === 'fixed' ? decimals.places : 0;
  return new Fraction(scale?.factor ?? 1).div(new Fraction(10).pow(places) ?? 1);
}

/**
 * Where two layouts of the same bytes cannot both be right, in words, in the order of the bits: a value of the one
 * reaches over values of the other, or both read the same bits in another order, unit or scale. Names are free; bits
 * that the device leaves free but that are laid out count as well, single bits that only one side names do not.
 */
export function layoutContradictions(image: Image, described: DescribedLayout): string[] {
  const known = signalsOf(described);
  return signalsOf(image)
    .filter((own) => own.at + own.bits <= described.size * 8)
    .flatMap((own) => {
      const met = known.filter((k) => overlaps(own, k));
      const [other] = met;
      if (!other) return number(own) ? [`${own.name} (${bitsText(own)}) lies where it has nothing`] : [];
      const whole = met.length === 1 && other.at === own.at && other.bits === own.bits;
      if (!whole) {
        // A word that the device splits into bits, or bits of a word that it leaves whole, mean the same bits.
        const split = number(own) && met.every((k) => inside(k, own) && k.bits === 1);
        const part = met.length === 1 && own.bits === 1 && inside(own, other);
        return split || part
          ? []
          : [
              `${own.name} (${bitsText(own)}) covers ${met.map((k) => `${k.name} (${bitsText(k)})`).join(', ')}`,
            ];
      }
      return [...valueContradiction(own, other)];
    });
}

const inside = (a: Signal, b: Signal) => a.at >= b.at && a.at + a.bits <= b.at + b.bits;

function valueContradiction(own: Signal, other: Signal): string[] {
  if (!number(own) || !number(other)) return [];
  if (own.bits > 8 && own.order !== other.order)
    return [`${own.name} is read with byte order ${own.order}, ${other.name} has ${other.order}`];
  const unit = own.unit && other.unit && own.unit !== other.unit;
  const [a, b] = [factorOf(own), factorOf(other)];
  const scale = a && b ? !a.equals(b) : false;
  if (!unit && !scale) return [];
  const text = (signal: Signal, factor: Fraction | null) =>
    [factor?.toFraction() ?? '', signal.unit].filter(Boolean).join(' ') || 'no unit';
  return [`${own.name} counts ${text(own, a)}, ${other.name} counts ${text(other, b)}`];
}
