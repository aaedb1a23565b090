import { limitsOf, readsOf, roomOf } from '../../layout/fieldTypes.js';
import { ratio } from '../../layout/ratio.js';
import type { Signal } from '../../layout/signals.js';
import {
  byteOf,
  bytePath,
  halfText,
  isComplement,
  numberType,
  partner,
  pointText,
  scaleOf,
  specialBits,
  type Code,
} from './chain.js';
import { packBit, packBits } from './elements.js';
import { specialCodes, type Member } from './members.js';
import { bitString, convert, hexText, indented, real, realRatio, widthFor } from './text.js';

/** The statements that put one member into the elements of the result. */
export function packLines(code: Code, member: Member): string[] {
  const { signal, path, raw: rawType } = member;
  const reads = readsOf(signal);
  if (reads === 'text') return textLines(code, member);
  if (reads === 'bytes')
    return Array.from({ length: signal.bits / 8 }, (_, i) =>
      packBits(code, code.fn, byteOf(signal, i), `value.${bytePath(path, i)}`),
    ).flat();
  if (signal.type === 'BOOL') return packBit(code, code.fn, signal, 0, `value.${path}`);
  const stringType = bitString[widthFor(signal.bits)];
  const plain = clamped(member);
  let bits = member.engineered
    ? engineeredBits(code, member)
    : reads === 'bcd'
      ? `${rawType}_TO_BCD_${stringType}(${plain})`
      : convert(rawType, stringType, plain);
  if (member.special)
    for (const { value, means } of [...signal.specials].reverse())
      bits = `SEL(value.${member.special} = ${specialCodes[means]}, ${bits}, ${literalBits(member, value)})`;
  return packBits(code, code.fn, signal, bits);
}

const literalBits = ({ signal, raw }: Member, value: number): string =>
  readsOf(signal) === 'float'
    ? convert(raw, bitString[widthFor(signal.bits)], real(value))
    : specialBits(signal, value);

/** Signs that lie in a bit of their own; written last, so that they win over the field that the bit belongs to. */
export function signLines(code: Code, { signal, path }: Member): string[] {
  if (signal.sign?.way !== 'bit') return [];
  const other = partner(code, signal, signal.sign.field);
  if (!other) return [];
  const negative = `value.${path} ${signal.sign.inverted ? '>=' : '<'} 0.0`;
  return packBit(code, code.fn, other.signal, signal.sign.bit, negative);
}

/** The value of a member, kept within its limits: a controller sends what the device may have, or the nearest to it. */
function clamped({ signal, path, own, engineered, raw }: Member): string {
  const value = `value.${path}`;
  const { minimum, maximum } = signal.limits ?? { minimum: null, maximum: null };
  if (minimum === null && maximum === null) return value;
  const inReal = engineered || readsOf(signal) === 'float';
  const low = minimum === null ? undefined : inReal ? realRatio(ratio(minimum)) : `${ratio(minimum).ceil()}`;
  const high =
    maximum === null ? undefined : inReal ? realRatio(ratio(maximum)) : `${ratio(maximum).floor()}`;
  const number = inReal ? own : numberType({ raw });
  const text = convert(own, number, value);
  const within =
    low !== undefined && high !== undefined
      ? `LIMIT(${low}, ${text}, ${high})`
      : low !== undefined
        ? `MAX(${low}, ${text})`
        : `MIN(${text}, ${high})`;
  return convert(number, own, within);
}

/** A value that does not fit stops at the end of the range; it never wraps. 64-bit limits are no exact LREAL. */
function limited(signal: Signal, text: string): string {
  const { minimum, maximum } = limitsOf(signal.type, signal.bits);
  return signal.bits > 32 ? text : `LIMIT(${real(minimum)}, ${text}, ${real(maximum)})`;
}

/** The raw number of a member in engineering units, as a bit string. */
function engineeredBits(code: Code, member: Member): string {
  const { signal, own: type } = member;
  const stringType = bitString[widthFor(signal.bits)];
  const number = numberType(member);
  const { factor, offset } = scaleOf(signal);
  const value = clamped(member);
  const less = offset.n === 0n ? value : `(${value} - (${realRatio(offset)}))`;
  const point = pointText(code, member, (other) => `value.${other.path}`);
  let raw =
    less +
    (factor.d === 1n ? '' : ` * ${real(factor.d)}`) +
    (factor.n === 1n && factor.s > 0n ? '' : ` / ${real(factor.s * factor.n)}`) +
    (point && ` * ${point}`);
  if (signal.sign?.way === 'offset' || isComplement(signal)) raw = `${raw} + ${real(2 ** (signal.bits - 1))}`;
  if (signal.sign?.way === 'bit') raw = `ABS(${raw})`;
  const whole = convert(type, number, limited(signal, raw));
  return readsOf(signal) === 'bcd'
    ? `${number}_TO_BCD_${stringType}(${whole})`
    : isComplement(signal)
      ? `(${convert(number, stringType, whole)} XOR ${halfText(signal)})`
      : convert(number, stringType, whole);
}

/** Characters and what fills up behind them (layout/characters.ts); what is longer is cut off. */
function textLines(code: Code, { signal, path }: Member): string[] {
  const { prefix, pad } = signal.text ?? { prefix: 0, pad: 0 };
  const first = prefix / 8;
  const room = roomOf(signal);
  const count = { ...signal, bits: prefix };
  return [
    `length := MIN(LEN(value.${path}), ${room});`,
    `FOR i := 0 TO ${room - 1} DO`,
    ...indented([
      `IF i < length THEN text_bytes[i] := CHAR_TO_BYTE(STRING_TO_CHAR(MID(value.${path}, 1, i + 1)));`,
      `ELSE text_bytes[i] := ${hexText(BigInt(pad))}; END_IF;`,
    ]),
    'END_FOR;',
    ...(prefix ? packBits(code, code.fn, count, `INT_TO_${bitString[prefix]}(length)`) : []),
    ...Array.from({ length: room }, (_, i) =>
      packBits(code, code.fn, byteOf(signal, first + i), `text_bytes[${i}]`),
    ).flat(),
  ];
}
