import type { LineUpFacts } from '../facts/lineUp.js';
import type { Texts } from '../wording.js';

/** Names, addresses and limits of the line-up. */
export const lineUpTexts: Texts<LineUpFacts> = {
  'device.nameTwice': (f) => ({
    says: `${f.count} devices are called ${f.name}.`,
    cure: 'Give each a name of its own that says which machine part it serves.',
  }),
  'device.nameNoIdentifier': (f) => ({
    says: `${f.name} is no identifier in IEC 61131-3; in code it becomes ${f.becomes}.`,
    cure: 'Start with a letter and use letters, digits and single underscores.',
  }),
  'device.nameSaysNothing': (f) => ({
    says: `The name ${f.name} does not say which machine part the device moves or serves.`,
    cure: 'Put the machine part in front: rack_lift_a1 for the axis of the rack’s lift.',
  }),
  'address.twice': (f) => ({
    says: `${f.devices} share the address ${f.address}.`,
    cure: 'Give one of them a free address.',
  }),
  'device.namePattern': (f) => ({
    says: `${f.name} does not follow the cell's pattern ${f.pattern}: ${f.why}.`,
    cure: 'Rename it, correct its designation, or change the pattern.',
  }),
  'device.stationName': (f) => ({
    says: `${f.name} cannot stand on a PROFINET network as it is; its station name is ${f.becomes}.`,
    cure: 'Nothing to do, as long as the device is given this name.',
  }),
  'device.nameTooLong': (f) => ({
    says: `${f.name} has ${f.length} characters; the controller takes ${f.longest}.`,
    cure: 'Shorten it.',
  }),
  'naming.pattern': (f) => ({
    says: `The naming pattern ${f.pattern} cannot be used: ${f.why}.`,
    cure: 'Correct it; the lens of the cell lists the pieces.',
  }),
  'address.inReservedRange': (f) => ({
    says: `${f.device} has ${f.address}, in the reserved range ${f.first} to ${f.last}${f.title ? ` (${f.title})` : ''}.`,
    cure: 'Give it an address outside this range.',
  }),
  'address.outsideKindRange': (f) => ({
    says: `${f.device} has ${f.address}; devices of the kind ${f.kind} belong in ${f.ranges}.`,
    cure: 'Give it an address there, or widen the range.',
  }),
  'address.otherKindRange': (f) => ({
    says: `${f.device} has ${f.address}, in the range ${f.first} to ${f.last} that is kept for ${f.kind}.`,
    cure: 'Give it an address outside this range.',
  }),
  'network.rangeOutside': (f) => ({
    says: `The range ${f.first} to ${f.last} does not lie within ${f.subnet}.`,
    cure: 'Correct its first or last address.',
  }),
  'network.rangesOverlap': (f) => ({
    says: `The ranges ${f.first} and ${f.second} overlap.`,
    cure: 'Make one of them smaller.',
  }),
  'network.gatewayOutside': (f) => ({
    says: `The gateway ${f.gateway} can be no host of ${f.subnet}.`,
    cure: 'Give it an address of the subnet, or leave it empty.',
  }),
  'network.noGateway': (f) => ({
    says: `${f.device} stands in ${f.subnet}, the controller in another subnet, and there is no gateway between them.`,
    cure: 'Name the gateway, or move the device.',
  }),
  'network.subnetsOverlap': (f) => ({
    says: `The subnets ${f.first} and ${f.second} overlap.`,
    cure: 'Take one of them out, or give it another prefix.',
  }),
  'limits.connections': (f) => ({
    says: `${f.name} would have ${f.used} connections; it can have ${f.limit}.`,
    cure: 'Link fewer devices to it, or choose one that can do more.',
  }),
  'limits.packets': (f) => ({
    says: `${f.name} would send and receive ${f.used} packets a second; it can do ${f.limit}.`,
    cure: 'Give links a longer update time, where the reaction allows it.',
  }),
  'limits.update': (f) => ({
    says: `The link of ${f.device} has an update time of ${f.update} ms; ${f.name} can keep ${f.limit} ms.`,
    cure: `Give it ${f.limit} ms or more, or a time-out that bears what is left out.`,
  }),
  'limits.reaction': (f) => ({
    says: `A change at ${f.device} may take ${f.worst} ms until its answer is back; ${f.wanted} ms are wanted.`,
    cure: 'Give the link a shorter update time or the controller a shorter cycle, or let the device itself react.',
  }),
  'limits.port': (f) => ({
    says: `The links take ${f.share} % of the port of ${f.name} at ${f.rate} Mbit/s in one direction.`,
    cure: 'Give links a longer update time: above a half, bursts begin to wait (common practice).',
  }),
  'address.outsideSubnet': (f) => ({
    says: `${f.device} at ${f.address} is outside the subnet ${f.subnet}.`,
    cure: 'Choose an address inside it, or correct the subnet.',
  }),
  'address.reserved': (f) => ({
    says: `${f.address} of ${f.device} is the network or the broadcast address of ${f.subnet}.`,
    cure: 'Choose an address between the two.',
  }),
  'safety.statusOnly': (f) => ({
    says: `${f.device} is a safety device on a standard protocol: what it reports is status only.`,
    cure: 'Never let a safety function rely on these signals; keep it in the safety circuit.',
  }),
};
