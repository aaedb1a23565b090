import type { Fraction } from '../../layout/ratio.js';

/** The small pieces of structured text (IEC 61131-3:2013) that are written everywhere. */

export type Width = 8 | 16 | 32 | 64;

export const bitString: Record<Width, string> = { 8: 'BYTE', 16: 'WORD', 32: 'DWORD', 64: 'LWORD' };
export const unsigned: Record<Width, string> = { 8: 'USINT', 16: 'UINT', 32: 'UDINT', 64: 'ULINT' };
export const partialAccess: Record<Width, string> = { 8: 'B', 16: 'W', 32: 'D', 64: 'L' };
export const widthFor = (bits: number): Width => ([8, 16, 32, 64] as const).find((w) => w >= bits)!;

/** `WORD_TO_UINT(x)`; nothing when both types are the same (6.6.2.5.2). */
export const convert = (from: string, to: string, text: string) =>
  from === to ? text : `${from}_TO_${to}(${text})`;
export const shifted = (text: string, places: number) =>
  places === 0 ? text : places > 0 ? `SHL(${text}, ${places})` : `SHR(${text}, ${-places})`;
export const maskText = (bits: number, shift = 0) => hexText(((1n << BigInt(bits)) - 1n) << BigInt(shift));
export const hexText = (value: bigint) => `16#${value.toString(16).toUpperCase()}`;

/** Comments must not end early, whatever a note says. */
export const comment = (text: string) => `(* ${text.replaceAll('*)', '* )').replaceAll('(*', '( *')} *)`;

/** A REAL literal: always with a point (6.3.2, table 5). */
export function real(value: number | bigint): string {
  const text = String(value);
  if (!/[.e]/.test(text)) return `${text}.0`;
  const [mantissa, exponent] = text.split('e');
  const pointed = mantissa!.includes('.') ? mantissa! : `${mantissa}.0`;
  return exponent === undefined ? pointed : `${pointed}E${exponent.replace('+', '')}`;
}
export const realRatio = (value: Fraction) =>
  value.d === 1n ? real(value.s * value.n) : `${real(value.s * value.n)} / ${real(value.d)}`;

/** Lines that stand within others. */
export const indented = (lines: readonly string[]): string[] => lines.map((line) => `  ${line}`);

/** A character string literal: `$` begins what cannot stand as it is (6.3.3, table 6). */
export const literal = (text: string): string => `'${text.replaceAll(/[$']/g, (sign) => `$${sign}`)}'`;
/** The opposite of a condition. */
export const negated = (text: string): string => (text.startsWith('NOT ') ? text.slice(4) : `NOT ${text}`);
