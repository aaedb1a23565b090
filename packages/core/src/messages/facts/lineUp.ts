/** Names, addresses and limits of the line-up. */
export interface LineUpFacts {
  'device.nameTwice': { name: string; count: number };
  'device.nameNoIdentifier': { name: string; becomes: string };
  'device.nameSaysNothing': { name: string };
  'address.twice': { address: string; devices: string };
  'device.namePattern': { name: string; pattern: string; why: string };
  'device.stationName': { name: string; becomes: string };
  'device.nameTooLong': { name: string; length: number; longest: number };
  'naming.pattern': { pattern: string; why: string };
  'address.inReservedRange': { device: string; address: string; first: string; last: string; title: string };
  'address.outsideKindRange': { device: string; address: string; kind: string; ranges: string };
  'address.otherKindRange': { device: string; address: string; kind: string; first: string; last: string };
  'network.rangeOutside': { first: string; last: string; subnet: string };
  'network.rangesOverlap': { first: string; second: string };
  'network.gatewayOutside': { gateway: string; subnet: string };
  'network.noGateway': { device: string; subnet: string };
  'network.subnetsOverlap': { first: string; second: string };
  'limits.connections': { name: string; used: number; limit: number };
  'limits.packets': { name: string; used: number; limit: number };
  'limits.update': { device: string; name: string; update: number; limit: number };
  'limits.reaction': { device: string; worst: number; wanted: number };
  'limits.port': { name: string; share: number; rate: number };
  'address.outsideSubnet': { device: string; address: string; subnet: string };
  'address.reserved': { device: string; address: string; subnet: string };
  'safety.statusOnly': { device: string };
}
