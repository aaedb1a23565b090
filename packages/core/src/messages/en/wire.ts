import type { WireFacts } from '../facts/wire.js';
import type { Texts } from '../wording.js';

/** The wire against the plan. */
export const wireTexts: Texts<WireFacts> = {
  'wire.right': (f) => ({
    says: `${f.device} is at ${f.address}, as planned.`,
    cure: 'Nothing to do.',
  }),
  'wire.asksOn': (f) => ({
    says: `${f.device} is the planned device, but it still asks for its address by ${f.method}: after the next start it may have none.`,
    cure: 'Let it keep its address, so that it asks no more.',
  }),
  'wire.wrongRevision': (f) => ({
    says: `${f.device} has revision ${f.found}; planned is ${f.planned}.`,
    cure: 'Look what differs; accept the revision, or load the planned firmware.',
  }),
  'wire.wrongIdentity': (f) => ({
    says: `At the address of ${f.device} stands ${f.found}; planned is ${f.planned}.`,
    cure: 'Compare the nameplates: change the device, its address or the plan.',
  }),
  'wire.twoAtAddress': (f) => ({
    says: `Two devices answer at ${f.address}, the address of ${f.device}: ${f.serials}.`,
    cure: 'Unplug one of them, give the other its own address, and scan again.',
  }),
  'wire.factoryAddress': (f) => ({
    says: `${f.device} is still at its factory address ${f.found}; planned is ${f.address}.`,
    cure: 'Assign the planned address.',
  }),
  'wire.otherAddress': (f) => ({
    says: `${f.device} is at ${f.found}; planned is ${f.address}.`,
    cure: 'Assign the planned address, or take the found one into the plan.',
  }),
  'wire.notAsked': (f) => ({
    says: `${f.device} at ${f.address} is not asked: the scan does not speak ${f.protocols}.`,
    cure: 'Look at its lights and its nameplate.',
  }),
  'wire.missing': (f) => ({
    says: f.elsewhere
      ? `Nothing answers at ${f.address}, the address of ${f.device}; several devices of its kind stand elsewhere: ${f.elsewhere}.`
      : `Nothing answers at ${f.address}, the address of ${f.device}.`,
    cure: f.elsewhere
      ? 'Find out by serial number which of them it is.'
      : 'Look at its power and its cable; a new device may be asking for an address.',
  }),
  'wire.notPlanned': (f) => ({
    says: `At ${f.address} stands ${f.found}, which is not in the plan.`,
    cure: 'Take it into the plan, or leave it be.',
  }),
  'scan.tooWide': (f) => ({
    says: `The scan would ask ${f.addresses} addresses; it asks ${f.limit} at most.`,
    cure: 'Name a smaller range.',
  }),
  'scan.noRange': (f) => ({
    says: `"${f.text}" is no range of addresses.`,
    cure: 'Write it as 192.168.40.0/24, as 192.168.40.10-192.168.40.60, or as one address.',
  }),
  'address.notSet': (f) => ({
    says: `The device at ${f.at} did not take the address: ${f.step}: ${f.reason}.`,
    cure: 'Read its settings; a switch on the device, or another controller that holds it, may keep it from changing.',
  }),
  'assigning.cannotListen': (f) => ({
    says: `No addresses can be given: port ${f.port} cannot be had (${f.reason}).`,
    cure: 'End the other program that gives addresses on this computer, or start Fadenkreuz with the right to use this port.',
  }),
};
