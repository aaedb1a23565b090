import { addressPlus, dottedAddress, addressNumber, hostsOf, Problem } from '@fadenkreuz/core';
import ipaddr from 'ipaddr.js';

/** A scan asks no more addresses than this: a /20. */
export const mostAddresses = 4096;

/**
 * The addresses of ranges such as 192.168.40.0/24, 192.168.40.10-192.168.40.60 or 192.168.1.1, each once. Throws
 * `scan.noRange` and `scan.tooWide`, before anything is counted out.
 */
export function addressesOf(ranges: readonly string[]): string[] {
  const spans = ranges.map(spanOf);
  const addresses = spans.reduce((sum, { first, last }) => sum + last - first + 1, 0);
  if (addresses > mostAddresses) throw new Problem('scan.tooWide', { addresses, limit: mostAddresses });
  const all = new Set<string>();
  for (const { first, last } of spans)
    for (let i = 0; i <= last - first; i += 1) all.add(addressPlus(dottedAddress(first), i));
  return [...all];
}

function spanOf(text: string): { first: number; last: number } {
  const [from, to, ...more] = text.split('-').map((part) => part.trim());
  const dotted = ipaddr.IPv4.isValidFourPartDecimal.bind(ipaddr.IPv4);
  if (from !== undefined && to === undefined && from.includes('/')) {
    if (ipaddr.IPv4.isValidCIDR(from) && dotted(from.split('/')[0]!)) return hostsOf(from);
  } else if (from !== undefined && more.length === 0 && dotted(from) && (to === undefined || dotted(to))) {
    const span = { first: addressNumber(from), last: addressNumber(to ?? from) };
    if (span.first <= span.last) return span;
  }
  throw new Problem('scan.noRange', { text: text.slice(0, 60) });
}
