import ipaddr from 'ipaddr.js';
import { Problem } from '../messages/problem.js';
import { addressNumber, dottedAddress } from './ipv4.js';

/** First and last address that a subnet has for hosts, as numbers; a /31 and a /32 have no others (RFC 3021). */
export function hostsOf(subnet: string): { first: number; last: number } {
  const prefix = ipaddr.IPv4.parseCIDR(subnet)[1];
  const network = addressNumber(ipaddr.IPv4.networkAddressFromCIDR(subnet).toString());
  const broadcast = addressNumber(ipaddr.IPv4.broadcastAddressFromCIDR(subnet).toString());
  return prefix >= 31 ? { first: network, last: broadcast } : { first: network + 1, last: broadcast - 1 };
}

/**
 * An address with its host number in another subnet; one outside the first subnet stays. Throws `network.tooSmall`
 * where the other subnet has no such host.
 */
export function movedTo(address: string, from: string, to: string): string {
  if (!ipaddr.IPv4.parse(address).match(ipaddr.IPv4.parseCIDR(from))) return address;
  const networkOf = (subnet: string) => addressNumber(ipaddr.IPv4.networkAddressFromCIDR(subnet).toString());
  const moved = networkOf(to) + addressNumber(address) - networkOf(from);
  const last = addressNumber(ipaddr.IPv4.broadcastAddressFromCIDR(to).toString());
  if (moved > last) throw new Problem('network.tooSmall', { subnet: to, address });
  return dottedAddress(moved);
}
