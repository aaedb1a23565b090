import ipaddr from 'ipaddr.js';
import { Problem } from '@fadenkreuz/core';

/** Where a planned address stands on the bench: 192.168.40.21 → 127.168.40.21. */
export const benchAddress = (planned: string): string => `127.${planned.split('.').slice(1).join('.')}`;

/** Throws `bench.outsideLoopback` for an address outside 127.0.0.0/8. Every socket that sends asks this first. */
export function requireLoopback(address: string): void {
  const loopback =
    ipaddr.IPv4.isValidFourPartDecimal(address) && ipaddr.IPv4.parse(address).range() === 'loopback';
  if (!loopback) throw new Problem('bench.outsideLoopback', { address });
}
