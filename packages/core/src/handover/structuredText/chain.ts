import { readsOf } from '../../layout/fieldTypes.js';
import { exactly, ratio, type Fraction } from '../../layout/ratio.js';
import type { Signal } from '../../layout/signals.js';
import type { Elements } from './elements.js';
import type { Member } from './members.js';
import { convert, hexText, maskText } from './text.js';

/** What unpacking and packing share of the chain from raw number to value (layout/valueChain.ts). */

/** All that is asked for while an image is written out. */
export interface Code extends Elements {
  members: readonly Member[];
  /** Name of the function, which is its result as well. */
  fn: string;
}

/** Whether the plain bits of a signal are two's complement. */
export const isComplement = (signal: Signal) => signal.sign?.way === 'complement';

/** The highest bit of a signal alone. */
export const halfText = ({ bits }: Signal) => maskText(1, bits - 1);

/** An unsigned or signed number type of the width, to calculate with when a bit string is scaled. */
export const numberType = ({ raw }: Pick<Member, 'raw'>): string =>
  ({ BYTE: 'USINT', WORD: 'UINT', DWORD: 'UDINT', LWORD: 'ULINT' })[raw] ?? raw;

/** Zero of an elementary type. */
export const zeroOf = (type: string) =>
  /REAL$/.test(type) ? '0.0' : /^(BYTE|.?WORD)$/.test(type) ? '16#0' : '0';

/** The member that a sign or a decimal point is taken from. */
export const partner = ({ members }: Code, signal: Signal, fieldId: string): Member | undefined =>
  members.find((m) => m.signal.id === fieldId + signal.id.slice(signal.of.length)) ??
  members.find((m) => m.signal.of === fieldId);

/** Factor and decimal point in one, and the offset. */
export function scaleOf({ scale, decimals }: Signal): { factor: Fraction; offset: Fraction } {
  const places = decimals && decimals.way !== 'field' ? decimals.places : 0;
  const point = exactly(10n ** BigInt(places))!;
  return { factor: ratio(scale?.factor ?? '1').div(point), offset: ratio(scale?.offset ?? '0') };
}

/** `EXPT(10.0, …)` for a decimal point that another field says; empty where none does. */
export function pointText(code: Code, member: Member, places: (other: Member) => string): string {
  const { decimals } = member.signal;
  const other = decimals?.way === 'field' ? partner(code, member.signal, decimals.field) : undefined;
  return other ? `EXPT(10.0, ${convert(numberType(other), member.own, places(other))})` : '';
}

/** The raw bits of a special number, as a literal. */
export function specialBits(signal: Signal, value: number): string {
  if (readsOf(signal) === 'bcd') return hexText(BigInt(`0x${Math.max(0, value)}`));
  return hexText(BigInt.asUintN(signal.bits, BigInt(value)));
}

/** One byte of a text or of raw bytes, counted from its first. */
export const byteOf = (signal: Signal, byte: number) => ({
  at: signal.at + byte * 8,
  bits: 8,
  order: 'little' as const,
});

/** How an element of raw bytes is reached: `serial[3]`, `serials[1, 3]`. */
export const bytePath = (path: string, byte: number) =>
  path.endsWith(']') ? `${path.slice(0, -1)}, ${byte}]` : `${path}[${byte}]`;
