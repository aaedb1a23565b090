import { addressNumber } from '../bytes/ipv4.js';
import type { AddressRange } from '../cell/network.js';
import { hostsOf } from '../bytes/subnet.js';
import { isHost, rangesAt, subnetOf } from '../lineup/addressPlan.js';
import { finding } from '../messages/finding.js';
import { groupsBy, type Rule } from './rule.js';

/** Two parties of the network have one address. */
export const addressTwice: Rule = ({ devices, controller }) =>
  groupsBy([{ ...controller, id: undefined }, ...devices], (d) => d.address)
    .filter((group) => group.length > 1)
    .map((group) => {
      const last = group.at(-1)!;
      return finding('address.twice', 'error', last.id ? { device: last.id } : {}, {
        address: last.address,
        devices: group.map((d) => d.name).join(' and '),
      });
    });

/** An address outside the subnets, or one that a subnet keeps for itself (RFC 4632 prefixes, RFC 922 broadcast). */
export const addressInSubnet: Rule = ({ devices, controller, network }) =>
  [{ ...controller, id: undefined }, ...devices].flatMap((party) => {
    const place = party.id ? { device: party.id } : {};
    const subnet = subnetOf(network, party.address);
    const facts = { device: party.name, address: party.address, subnet: subnet ?? network.subnet };
    if (subnet === undefined) return finding('address.outsideSubnet', 'error', place, facts);
    return isHost(subnet, party.address) ? [] : finding('address.reserved', 'error', place, facts);
  });

const spans = (a: { first: number; last: number }, b: { first: number; last: number }) =>
  a.first <= b.last && b.first <= a.last;
const spanOf = ({ first, last }: AddressRange) => ({
  first: addressNumber(first),
  last: addressNumber(last),
});

/** Every device stands where the plan's ranges put its kind, and none in a range that is kept for others. */
export const addressInRange: Rule = ({ devices, network }) =>
  devices.flatMap(({ id, name, kind, address }) => {
    const facts = { device: name, address, kind };
    const place = { device: id };
    const here = rangesAt(network, address);
    const reserved = here.find((r) => r.kind === null);
    if (reserved) return finding('address.inReservedRange', 'warning', place, { ...facts, ...reserved });
    const own = network.ranges.filter((r) => r.kind === kind);
    if (here.some((r) => r.kind === kind)) return [];
    const other = here.find((r) => r.kind !== null);
    if (other)
      return finding('address.otherKindRange', 'warning', place, { ...facts, ...other, kind: other.kind! });
    const ranges = own.map((r) => `${r.first} to ${r.last}`).join(', ');
    return own.length > 0 ? finding('address.outsideKindRange', 'warning', place, { ...facts, ranges }) : [];
  });

/** The plan itself: ranges inside its subnets and apart from each other, subnets apart, a gateway that can be one. */
export const addressPlanWhole: Rule = ({ network }) => {
  const { subnet, further, ranges, gateway } = network;
  const subnets = [subnet, ...further];
  const pairs = <T>(list: readonly T[]) =>
    list.flatMap((a, i) => list.slice(i + 1).map((b) => [a, b] as const));
  const outside = ranges
    .filter((r) => {
      const home = subnetOf(network, r.first);
      return home === undefined || home !== subnetOf(network, r.last);
    })
    .map(({ first, last }) => finding('network.rangeOutside', 'warning', {}, { first, last, subnet }));
  const named = ({ first, last }: AddressRange) => `${first} to ${last}`;
  const overlapping = pairs(ranges)
    .filter(([a, b]) => spans(spanOf(a), spanOf(b)))
    .map(([a, b]) => finding('network.rangesOverlap', 'warning', {}, { first: named(a), second: named(b) }));
  const twice = pairs(subnets)
    .filter(([a, b]) => spans(hostsOf(a), hostsOf(b)))
    .map(([first, second]) => finding('network.subnetsOverlap', 'error', {}, { first, second }));
  const astray =
    gateway !== null && !subnets.some((s) => isHost(s, gateway))
      ? [finding('network.gatewayOutside', 'error', {}, { gateway, subnet })]
      : [];
  return [...outside, ...overlapping, ...twice, ...astray];
};

/** A device in another subnet than the controller is reached through a gateway only. */
export const gatewayBetween: Rule = ({ devices, controller, network }) =>
  network.gateway !== null
    ? []
    : devices.flatMap(({ id, name, address }) => {
        const subnet = subnetOf(network, address);
        const apart = subnet !== undefined && subnet !== subnetOf(network, controller.address);
        return apart ? [finding('network.noGateway', 'error', { device: id }, { device: name, subnet })] : [];
      });
