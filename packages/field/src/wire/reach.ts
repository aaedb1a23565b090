import { networkInterfaces } from 'node:os';
import ipaddr from 'ipaddr.js';
import { Problem } from '@fadenkreuz/core';

/** Where a planned address stands on the bench: 192.168.40.21 → 127.168.40.21. */
export const benchAddress = (planned: string): string => `127.${planned.split('.').slice(1).join('.')}`;

/**
 * The subnets outside loopback that the agent may send to, as it was told at its start. Every socket that sends asks
 * here first; without subnets nothing leaves 127.0.0.0/8.
 */
export class Reach {
  private readonly subnets: readonly [ipaddr.IPv4, number][];

  /** Subnets in CIDR notation. Throws `reach.noSubnet` for a text that is none. */
  constructor(private readonly written: readonly string[] = []) {
    this.subnets = written.map((text) => {
      const fits = ipaddr.IPv4.isValidCIDR(text) && ipaddr.IPv4.isValidFourPartDecimal(text.split('/')[0]!);
      if (!fits) throw new Problem('reach.noSubnet', { text });
      return ipaddr.IPv4.parseCIDR(text);
    });
  }

  /** Whether anything outside loopback was allowed. */
  get any(): boolean {
    return this.subnets.length > 0;
  }

  /** The subnets as they were given. */
  get texts(): string[] {
    return [...this.written];
  }

  /** Whether an address outside loopback was allowed. */
  holds(address: string): boolean {
    if (!ipaddr.IPv4.isValidFourPartDecimal(address)) return false;
    return this.subnets.some((subnet) => ipaddr.IPv4.parse(address).match(subnet));
  }

  /** Throws `bench.outsideLoopback` for an address that may not be sent to. */
  require(address: string): void {
    const valid = ipaddr.IPv4.isValidFourPartDecimal(address);
    if (valid && ipaddr.IPv4.parse(address).range() === 'loopback') return;
    if (!this.holds(address)) throw new Problem('bench.outsideLoopback', { address });
  }
}

export const onlyLoopback = new Reach();

/** This computer's own address in the subnet of another; undefined when no adapter stands there. */
export function ownAddressBeside(address: string): string | undefined {
  if (!ipaddr.IPv4.isValidFourPartDecimal(address)) return undefined;
  const other = ipaddr.IPv4.parse(address);
  const beside = Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .find((own) => own.family === 'IPv4' && own.cidr && other.match(ipaddr.IPv4.parseCIDR(own.cidr)));
  return beside?.address;
}

/** The broadcast addresses of this computer's own subnets that may be reached. */
export const ownBroadcasts = (reach: Reach): string[] =>
  Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((own) => own.family === 'IPv4' && !own.internal && own.cidr && reach.holds(own.address))
    .map((own) => ipaddr.IPv4.broadcastAddressFromCIDR(own.cidr!).toString())
    .filter((address) => reach.holds(address));
