import ipaddr from 'ipaddr.js';
import { addressNumber, dottedAddress } from '../bytes/ipv4.js';
import { hostsOf } from '../bytes/subnet.js';
import type { DeviceKind } from '../devices/kinds.js';
import type { Cell } from '../cell/model.js';
import type { AddressRange, Network } from '../cell/network.js';

/**
 * Whether an address can be a host's in a subnet: inside, and neither the network's own nor its broadcast (RFC 922).
 */
export const isHost = (subnet: string, address: string): boolean => {
  const { first, last } = hostsOf(subnet);
  const number = addressNumber(address);
  return first <= number && number <= last;
};

/** The subnet of a cell that holds an address; undefined when none does. */
export const subnetOf = ({ subnet, further }: Network, address: string): string | undefined =>
  [subnet, ...further].find((s) => ipaddr.IPv4.parse(address).match(ipaddr.IPv4.parseCIDR(s)));

/** The mask of a subnet in four decimal numbers. */
export const maskOf = (subnet: string): string =>
  ipaddr.IPv4.subnetMaskFromPrefixLength(ipaddr.IPv4.parseCIDR(subnet)[1]).toString();

const holds = (range: AddressRange, address: number) =>
  addressNumber(range.first) <= address && address <= addressNumber(range.last);

/** The ranges of the plan that an address lies in. */
export const rangesAt = ({ ranges }: Network, address: string): AddressRange[] =>
  ranges.filter((range) => holds(range, addressNumber(address)));

/**
 * In a large subnet devices begin here, so that the low addresses stay for the network itself: common practice, no
 * source.
 */
const lowAddresses = 9;
/** Addresses that are looked at for a free one. */
const mostLooked = 65_536;

/**
 * The lowest address that nobody has, in the ranges of a kind of device where there are some, else outside all ranges;
 * empty when all are taken.
 */
export function freeAddress(cell: Cell, kind?: DeviceKind): string {
  const { network } = cell;
  const taken = new Set(
    [cell.controller.address, network.gateway, ...cell.devices.map((d) => d.address)].flatMap((a) =>
      a ? [addressNumber(a)] : [],
    ),
  );
  const own = network.ranges.filter((r) => r.kind !== null && r.kind === kind);
  const reserved = network.ranges.filter((r) => r.kind === null);
  const kept = own.length > 0 ? reserved : network.ranges;
  const { first, last } = hostsOf(network.subnet);
  const places =
    own.length > 0
      ? own.map((r) => ({ first: addressNumber(r.first), last: addressNumber(r.last) }))
      : [{ first: last - first > 64 ? first + lowAddresses : first, last }];
  for (const place of places)
    for (let address = place.first; address <= Math.min(place.last, place.first + mostLooked); address += 1)
      if (!taken.has(address) && !kept.some((r) => holds(r, address))) return dottedAddress(address);
  return '';
}
