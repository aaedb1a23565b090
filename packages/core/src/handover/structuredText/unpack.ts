import { limitsOf, readsOf, roomOf } from '../../layout/fieldTypes.js';
import type { Special } from '../../layout/field.js';
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
  zeroOf,
  type Code,
} from './chain.js';
import { bitOf, bitsOf } from './elements.js';
import { specialCodes, type Member } from './members.js';
import { bitString, convert, hexText, indented, maskText, real, realRatio, widthFor } from './text.js';

/** The statements that take one member from `raw`. */
export function unpackLines(code: Code, member: Member): string[] {
  const { signal, path, raw: rawType, own: type } = member;
  const target = `${code.fn}.${path}`;
  const reads = readsOf(signal);
  if (reads === 'text') return textLines(code, member);
  if (reads === 'bytes')
    return Array.from(
      { length: signal.bits / 8 },
      (_, i) => `${code.fn}.${bytePath(path, i)} := ${bitsOf(code, byteOf(signal, i))};`,
    );
  if (signal.type === 'BOOL') return [`${target} := ${bitOf(code, signal, 0)};`];
  const value = member.engineered
    ? engineered(code, member)
    : asNumber(member, plainBits(code, signal), rawType);
  if (!member.special) return [`${target} := ${value};`];
  const special = `${code.fn}.${member.special}`;
  return [
    `${special} := 0;`,
    ...signal.specials.map(
      (s) => `IF ${isSpecial(code, member, s)} THEN ${special} := ${specialCodes[s.means]}; END_IF;`,
    ),
    `IF ${special} = 0 THEN ${target} := ${value}; ELSE ${target} := ${zeroOf(type)}; END_IF;`,
  ];
}

/** The bits of a signal without a sign bit that lies among them, as a bit string. */
function plainBits(code: Code, signal: Member['signal']): string {
  const inner = signal.sign?.way === 'bit' && signal.sign.field === signal.of;
  return inner ? `(${bitsOf(code, signal)} AND ${maskText(signal.bits - 1)})` : bitsOf(code, signal);
}

function asNumber({ signal }: Member, bits: string, to: string): string {
  const from = bitString[widthFor(signal.bits)];
  return readsOf(signal) === 'bcd' ? `${from}_BCD_TO_${to}(${bits})` : convert(from, to, bits);
}

/** Whether a signal holds a special number. */
const isSpecial = (code: Code, member: Member, { value }: Special): string =>
  readsOf(member.signal) === 'float'
    ? `${asNumber(member, bitsOf(code, member.signal), member.raw)} = ${real(value)}`
    : `${bitsOf(code, member.signal)} = ${specialBits(member.signal, value)}`;

/** The value in engineering units. */
function engineered(code: Code, member: Member): string {
  const { signal, own: type } = member;
  const number = numberType(member);
  const plain = plainBits(code, signal);
  // Two's complement of any width is offset binary once its highest bit is turned.
  const bits = isComplement(signal) ? `(${plain} XOR ${halfText(signal)})` : plain;
  let raw = convert(number, type, asNumber(member, bits, number));
  if (signal.sign?.way === 'offset' || isComplement(signal))
    raw = `(${raw} - ${real(2 ** (signal.bits - 1))})`;
  if (signal.sign?.way === 'bit') {
    const other = partner(code, signal, signal.sign.field);
    const bit = other && bitOf(code, other.signal, signal.sign.bit);
    const minus = `(0.0 - ${raw})`;
    if (bit) raw = signal.sign.inverted ? `SEL(${bit}, ${minus}, ${raw})` : `SEL(${bit}, ${raw}, ${minus})`;
  }
  const { factor, offset } = scaleOf(signal);
  const times = factor.n === 1n && factor.s > 0n ? '' : ` * ${real(factor.s * factor.n)}`;
  const by = factor.d === 1n ? '' : ` / ${real(factor.d)}`;
  const point = pointText(code, member, (other) =>
    convert(bitString[widthFor(other.signal.bits)], numberType(other), bitsOf(code, other.signal)),
  );
  const plus =
    offset.n === 0n ? '' : offset.s < 0n ? ` - ${realRatio(offset.neg())}` : ` + ${realRatio(offset)}`;
  return `${raw}${times}${by}${point && ` / ${point}`}${plus}`;
}

/** Characters of bytes (layout/characters.ts); the local variables are declared by the function. */
function textLines(code: Code, member: Member): string[] {
  const { signal, path } = member;
  const target = `${code.fn}.${path}`;
  const { prefix, pad } = signal.text ?? { prefix: 0, pad: 0 };
  const first = prefix / 8;
  const room = roomOf(signal);
  const bytes = Array.from(
    { length: room },
    (_, i) => `text_bytes[${i}] := ${bitsOf(code, byteOf(signal, first + i))};`,
  );
  return [...bytes, ...lengthLines(), ...joined(target)];

  function lengthLines(): string[] {
    if (prefix) {
      const count = { ...signal, bits: prefix };
      const number = prefix === 8 ? 'USINT' : 'UINT';
      const most = limitsOf('INT', 16).maximum;
      const counted = convert(bitString[prefix], number, bitsOf(code, count));
      return [`length := ${number}_TO_INT(MIN(${counted}, ${Math.min(room, Number(most))}));`];
    }
    // A NUL ends the text; other padding is taken from its end.
    return pad === 0
      ? [
          `length := ${room};`,
          `FOR i := ${room - 1} TO 0 BY -1 DO`,
          ...indented(['IF text_bytes[i] = 16#0 THEN length := i; END_IF;']),
          'END_FOR;',
        ]
      : [
          'length := 0;',
          `FOR i := 0 TO ${room - 1} DO`,
          ...indented([`IF text_bytes[i] <> ${hexText(BigInt(pad))} THEN length := i + 1; END_IF;`]),
          'END_FOR;',
        ];
  }
}

const joined = (target: string): string[] => [
  `${target} := '';`,
  'FOR i := 0 TO length - 1 DO',
  ...indented([`${target} := CONCAT(${target}, CHAR_TO_STRING(BYTE_TO_CHAR(text_bytes[i])));`]),
  'END_FOR;',
];
