/** The wire against the plan. */
export interface WireFacts {
  'wire.right': { device: string; address: string };
  'wire.asksOn': { device: string; address: string; method: string };
  'wire.wrongRevision': { device: string; planned: string; found: string };
  'wire.wrongIdentity': { device: string; planned: string; found: string };
  'wire.twoAtAddress': { device: string; address: string; serials: string };
  'wire.factoryAddress': { device: string; address: string; found: string };
  'wire.otherAddress': { device: string; address: string; found: string };
  'wire.notAsked': { device: string; address: string; protocols: string };
  'wire.missing': { device: string; address: string; elsewhere: string };
  'wire.notPlanned': { address: string; found: string };
  'scan.tooWide': { addresses: number; limit: number };
  'scan.noRange': { text: string };
  'address.notSet': { at: string; step: string; reason: string };
  'assigning.cannotListen': { port: number; reason: string };
}
