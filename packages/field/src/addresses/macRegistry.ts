import { createRequire } from 'node:module';

const load = createRequire(import.meta.url);
/** 5 MB: read when the first device is asked for. */
let registry: Record<string, string> | undefined;

/** Set in a MAC address that was given locally and stands in no registry (IEEE 802, 8.2). */
const locallyGiven = 0x02;

/**
 * Whose block of addresses a MAC address is of, by the IEEE's registry of organizationally unique identifiers;
 * undefined where nobody's.
 */
export function makerOfMac(mac: string): string | undefined {
  const prefix = mac
    .replace(/[^0-9a-f]/gi, '')
    .slice(0, 6)
    .toUpperCase();
  if (prefix.length < 6 || parseInt(prefix.slice(0, 2), 16) & locallyGiven) return undefined;
  registry ??= load('oui-data') as Record<string, string>;
  return registry[prefix]?.split('\n')[0];
}
