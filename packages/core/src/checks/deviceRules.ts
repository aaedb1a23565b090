import ipaddr from 'ipaddr.js';
import { identifierOf } from '../cell/identifiers.js';
import { finding } from '../messages/finding.js';
import { groupsBy, type Rule } from './rule.js';

/** Two devices, or a device and the controller, have one name. */
export const deviceNameTwice: Rule = ({ devices, controller }) =>
  groupsBy([{ id: undefined, name: controller.name }, ...devices], (d) => d.name.toLowerCase())
    .filter((group) => group.length > 1)
    .map((group) => {
      const { id, name } = group.at(-1)!;
      return finding('device.nameTwice', 'error', id ? { device: id } : {}, { name, count: group.length });
    });

/** A name that controller code cannot use as it stands (IEC 61131-3:2013, 6.1.2). */
export const deviceNameNoIdentifier: Rule = ({ devices }) =>
  devices
    .filter((d) => identifierOf(d.name) !== d.name)
    .map((d) =>
      finding(
        'device.nameNoIdentifier',
        'notice',
        { device: d.id },
        { name: d.name, becomes: identifierOf(d.name) },
      ),
    );

/** Words that name a kind of device, not the machine part that it moves or serves; common practice, no source. */
const kindWords = new Set(
  `axis camera converter controller device drive encoder hub inverter io item master module motor node part plc robot scale sensor
  servo slave station terminal unit valve vfd weigher`.split(/\s+/),
);

/** A name of nothing but kinds and numbers, such as Drive1: on the machine it tells nobody which one is meant. */
export const deviceNameSaysNothing: Rule = ({ devices }) =>
  devices
    .filter(({ name }) => {
      const words = name.toLowerCase().match(/[\p{L}]+|\d+/gu) ?? [];
      // One letter with a number is a designation: it tells devices apart, and says no more.
      return words.every((word) => kindWords.has(word) || /^(\d+|\p{L})$/u.test(word));
    })
    .map(({ id, name }) => finding('device.nameSaysNothing', 'notice', { device: id }, { name }));

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

/** An address outside the subnet, or one that the subnet keeps for itself (RFC 4632 prefixes, RFC 922 broadcast). */
export const addressInSubnet: Rule = ({ devices, controller, network }) =>
  [{ ...controller, id: undefined }, ...devices].flatMap((party) => {
    const place = party.id ? { device: party.id } : {};
    const facts = { device: party.name, address: party.address, subnet: network.subnet };
    const [base, prefix] = ipaddr.IPv4.parseCIDR(network.subnet);
    const address = ipaddr.IPv4.parse(party.address);
    if (!address.match(base, prefix)) return finding('address.outsideSubnet', 'error', place, facts);
    const kept = [
      ipaddr.IPv4.networkAddressFromCIDR(network.subnet),
      ipaddr.IPv4.broadcastAddressFromCIDR(network.subnet),
    ].some((a) => a.toString() === address.toString());
    // A /31 or /32 has no such addresses (RFC 3021).
    return kept && prefix < 31 ? finding('address.reserved', 'error', place, facts) : [];
  });

/** A safety device on a standard protocol may be read, never relied upon. */
export const safetyStatusOnly: Rule = ({ devices }) =>
  devices
    .filter((d) => d.kind === 'safety controller' && d.links.length > 0)
    .map((d) => finding('safety.statusOnly', 'notice', { device: d.id }, { device: d.name }));
