import type { DeviceFault } from '../devices/behaviour.js';
import type { Fault, FaultKind } from '../devices/fault.js';
import { actingByRoles } from '../cell/acting.js';
import { offerOf } from '../cell/description.js';
import type { Device } from '../cell/model.js';
import { protocolOf } from '../protocols/list.js';

const titles: Record<Exclude<FaultKind, 'device'>, string> = {
  'cable-pulled': 'pull the cable',
  'power-cycled': 'switch it off and on',
  'wrong-device': 'put another device at the address',
  'duplicate-address': 'give a second device the same address',
  'factory-address': 'put it back to its factory address',
  'asks-for-address': 'take its address away: it asks for one',
  'assembly-resized': 'change the size of an image',
  'packets-lost': 'lose packets',
  'packets-delayed': 'delay packets',
  'packets-doubled': 'double packets',
  'packets-reordered': 'mix the order of packets',
  slow: 'answer slowly',
  busy: 'be busy',
  stolen: 'let another controller take the outputs',
  frozen: 'freeze the feedback',
  'out-of-range': 'show a value out of range',
};

/** One entry of the list that a person chooses from. */
export interface FaultChoice {
  fault: Fault;
  title: string;
}

/** Those of the kind that it acts as by its roles. */
export const ownFaults = (device: Device): readonly Pick<DeviceFault<unknown>, 'id' | 'title' | 'reset'>[] =>
  actingByRoles(device)?.faults ?? [];

/** What can be injected at a device that is simulated, with the default settings of each. */
export function faultChoices(device: Device): FaultChoice[] {
  const offer = offerOf(device);
  const common = offer ? protocolOf(offer).faults(offer) : [];
  return [
    ...common.map((fault) => ({ fault, title: fault.fault === 'device' ? fault.id : titles[fault.fault] })),
    ...ownFaults(device).map(({ id, title }) => ({ fault: { fault: 'device', id } as const, title })),
  ];
}

/** A fault in words, for the trace. */
export function faultTitle(device: Device, fault: Fault): string {
  if (fault.fault === 'device') return ownFaults(device).find((f) => f.id === fault.id)?.title ?? fault.id;
  const { fault: kind, ...settings } = fault;
  const given = Object.entries(settings).filter(([, value]) => value !== null);
  const told = given.map(([key, value]) => `${key} ${value as string | number}`);
  return [titles[kind], ...told].join(', ');
}
