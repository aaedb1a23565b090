import type { Parameter } from '../devices/parameter.js';
import { ratioEntry } from './cells.js';

/** The key of a parameter as text: the code of the parameter that opens it, and its raw value: `P2 = 19269`. */
export const keyText = (key: Parameter['key']): string => (key ? `${key.code} = ${key.raw}` : '');

/** Such a text read back; undefined for one that is none. */
export function readKey(text: string): NonNullable<Parameter['key']> | undefined {
  const [, code, value] = /^(.{1,20}?)\s*=\s*(\S+)$/.exec(text.trim()) ?? [];
  const raw = value === undefined ? undefined : ratioEntry(value);
  return code !== undefined && raw !== undefined ? { code, raw } : undefined;
}
