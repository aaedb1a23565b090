/** A number as a file states it: a bigint where a number would lose digits. */
export type Exact = number | bigint;

/** A whole number in the form that has all its digits. */
export const narrow = (value: bigint): Exact =>
  value >= Number.MIN_SAFE_INTEGER && value <= Number.MAX_SAFE_INTEGER ? Number(value) : value;

const mostDigits = 25;

/** Decimal, hex with 0x, or a floating number as a file writes it; undefined for anything else. */
export function exactOf(text: string): Exact | undefined {
  // Most numbers of a data sheet that are not short are hex: they come first, and as numbers.
  if (/^0x[0-9a-f]{1,13}$/i.test(text)) return Number(text);
  if (/^[-+]?(\d+(\.\d*)?|\.\d+)(e[-+]?\d{1,3})?$/i.test(text)) {
    const number = Number(text);
    if (Number.isSafeInteger(number)) return number || 0;
    if (text.length <= mostDigits && /^[-+]?\d+$/.test(text)) return narrow(BigInt(text.replace('+', '')));
    return Number.isFinite(number) ? number : undefined;
  }
  const hex = /^([-+]?)0x([0-9a-f]{1,16})$/i.exec(text);
  if (!hex) return undefined;
  const value = BigInt(`0x${hex[2]}`);
  return narrow(hex[1] === '-' ? -value : value);
}
