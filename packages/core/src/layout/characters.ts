import type { TextForm } from './field.js';
import { Problem } from '../messages/problem.js';
import type { Signal } from './signals.js';

/** A text field without a stated form: characters to the end, filled with NUL. */
const plainText: TextForm = { prefix: 0, encoding: 'ascii', pad: 0 };

/** Bytes of a text; undefined when it has a character that the encoding lacks. */
function bytesOfText(text: string, encoding: TextForm['encoding']): number[] | undefined {
  if (encoding === 'ascii') {
    const codes = [...text].map((c) => c.codePointAt(0)!);
    return codes.every((c) => c < 0x80) ? codes : undefined;
  }
  if (/\p{Cs}/u.test(text)) return undefined;
  // RFC 3986 writes UTF-8 byte by byte; this is the one encoder that the language itself has.
  return [...encodeURIComponent(text).matchAll(/%([0-9A-F]{2})|([^%])/g)].map(([, hex, plain]) =>
    hex ? parseInt(hex, 16) : plain!.charCodeAt(0),
  );
}

/** Text of bytes; what is no character of the encoding becomes U+FFFD. */
function textOfBytes(bytes: readonly number[], encoding: TextForm['encoding']): string {
  if (encoding === 'utf-8') {
    try {
      return decodeURIComponent(bytes.map((b) => `%${b.toString(16).padStart(2, '0')}`).join(''));
    } catch {
      // Not UTF-8: what is ASCII in it can still be read.
    }
  }
  return bytes.map((b) => (b < 0x80 ? String.fromCharCode(b) : '\ufffd')).join('');
}

/** Where the characters of a text signal lie, and how its count is written. */
function textRoom(signal: Signal) {
  const form = signal.text ?? plainText;
  const first = signal.at >> 3;
  const start = first + form.prefix / 8;
  return { form, first, start, room: signal.bits / 8 - form.prefix / 8, big: signal.order.startsWith('big') };
}

/** The characters that a text signal holds in the bytes of its image. */
export function readText(signal: Signal, held: Uint8Array): string {
  const { form, first, start, room, big } = textRoom(signal);
  const low = held[big ? first + 1 : first]!;
  const high = held[big ? first : first + 1]!;
  const counted = form.prefix === 8 ? held[first]! : form.prefix === 16 ? high * 256 + low : room;
  let length = Math.min(counted, room);
  if (form.prefix === 0) {
    while (length > 0 && held[start + length - 1] === form.pad) length -= 1;
    if (form.pad === 0) {
      const nul = held.subarray(start, start + length).indexOf(0);
      if (nul >= 0) length = nul;
    }
  }
  return textOfBytes([...held.subarray(start, start + length)], form.encoding);
}

/**
 * Writes characters, the count before them and the padding behind them. Throws `value.noSuchCharacter`,
 * `value.textTooLong`.
 */
export function writeText(signal: Signal, text: string, held: Uint8Array): void {
  const { form, first, start, room, big } = textRoom(signal);
  const bytes = bytesOfText(text, form.encoding);
  if (!bytes) throw new Problem('value.noSuchCharacter', { field: signal.name, encoding: form.encoding });
  const maximum = form.prefix === 8 ? Math.min(room, 255) : room;
  if (bytes.length > maximum)
    throw new Problem('value.textTooLong', { field: signal.name, bytes: bytes.length, room: maximum });
  held.fill(form.pad, start, start + room);
  held.set(bytes, start);
  if (form.prefix === 8) held[first] = bytes.length;
  if (form.prefix === 16) {
    held[big ? first + 1 : first] = bytes.length & 0xff;
    held[big ? first : first + 1] = bytes.length >> 8;
  }
}

/** Writes raw bytes given as hex pairs. Throws `value.bytesMissing` unless it is all of them. */
export function writeHexPairs(signal: Signal, hex: string, held: Uint8Array): void {
  const pairs = hex.match(/[0-9A-F]{2}/gi) ?? [];
  if (pairs.length !== signal.bits / 8)
    throw new Problem('value.bytesMissing', {
      field: signal.name,
      bytes: pairs.length,
      need: signal.bits / 8,
    });
  held.set(
    pairs.map((p) => parseInt(p, 16)),
    signal.at >> 3,
  );
}
