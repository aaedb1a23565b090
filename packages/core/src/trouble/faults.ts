import { z } from 'zod';
import { behaviours } from '../behaviours/behaviours.js';
import { dottedQuad } from '../cell/entries.js';
import type { Device } from '../cell/model.js';

/** Faults that can be struck at a stand-in, and what each of them is told. */

const share = z.number().min(0.01).max(1);

export const Fault = z.discriminatedUnion('fault', [
  z.strictObject({ fault: z.literal('cable-pulled') }),
  z.strictObject({
    fault: z.literal('power-cycled'),
    offMs: z.number().int().min(100).max(60_000).default(2000),
  }),
  /** Another product, or the right one in another revision. */
  z.strictObject({
    fault: z.literal('wrong-device'),
    differs: z.enum(['product', 'revision']).default('product'),
  }),
  z.strictObject({ fault: z.literal('duplicate-address') }),
  /** Back to the settings that it left the factory with; null: to the address that the plan knows of, or the usual one. */
  z.strictObject({ fault: z.literal('factory-address'), address: dottedQuad.nullable().default(null) }),
  /** It has no address, and asks for one each time it starts. */
  z.strictObject({ fault: z.literal('asks-for-address'), method: z.enum(['bootp', 'dhcp']).default('dhcp') }),
  z.strictObject({
    fault: z.literal('assembly-resized'),
    direction: z.enum(['command', 'feedback']).default('feedback'),
    /** Bytes more, or fewer. */
    by: z.number().int().min(-500).max(500).default(2),
  }),
  z.strictObject({ fault: z.literal('packets-lost'), share: share.default(0.2) }),
  z.strictObject({
    fault: z.literal('packets-delayed'),
    share: share.default(0.5),
    ms: z.number().int().min(1).max(2000).default(40),
  }),
  z.strictObject({ fault: z.literal('packets-doubled'), share: share.default(0.2) }),
  z.strictObject({ fault: z.literal('packets-reordered'), share: share.default(0.2) }),
  z.strictObject({ fault: z.literal('slow'), ms: z.number().int().min(1).max(10_000).default(800) }),
  z.strictObject({ fault: z.literal('busy') }),
  z.strictObject({ fault: z.literal('stolen') }),
  z.strictObject({ fault: z.literal('frozen') }),
  /** A value at the end of what its place can hold. */
  z.strictObject({ fault: z.literal('out-of-range'), field: z.string().max(80).optional() }),
  /** One of the faults that this kind of device can have. */
  z.strictObject({ fault: z.literal('device'), id: z.string().max(40) }),
]);
export type Fault = z.infer<typeof Fault>;
export type FaultKind = Fault['fault'];

const titles: Record<
  Exclude<FaultKind, 'device'>,
  { title: string; protocol?: 'ethernet-ip'; cyclic?: true }
> = {
  'cable-pulled': { title: 'pull the cable' },
  'power-cycled': { title: 'switch it off and on' },
  'wrong-device': { title: 'put another device at the address' },
  'duplicate-address': { title: 'give a second device the same address', protocol: 'ethernet-ip' },
  'factory-address': { title: 'put it back to its factory address' },
  'asks-for-address': { title: 'take its address away: it asks for one' },
  'assembly-resized': { title: 'change the size of an image' },
  'packets-lost': { title: 'lose packets', cyclic: true },
  'packets-delayed': { title: 'delay packets', cyclic: true },
  'packets-doubled': { title: 'double packets', cyclic: true },
  'packets-reordered': { title: 'mix the order of packets', cyclic: true },
  slow: { title: 'answer slowly' },
  busy: { title: 'be busy' },
  stolen: { title: 'let another controller take the outputs', protocol: 'ethernet-ip' },
  frozen: { title: 'freeze the feedback' },
  'out-of-range': { title: 'show a value out of range' },
};

/** One entry of the list that a person chooses from. */
export interface FaultChoice {
  fault: Fault;
  title: string;
}

/** What can be struck at a device, with the settings that each has at first; none for a device without a stand-in. */
export function faultChoices(device: Device): FaultChoice[] {
  if (!device.standIn) return [];
  const { reached, faults } = behaviours[device.standIn];
  const cyclic = reached.protocol === 'ethernet-ip' && reached.cyclic;
  const own = faults.map(({ id, title }) => ({ fault: { fault: 'device', id } as const, title }));
  const common = Object.entries(titles)
    .filter(([, t]) => (!t.protocol || t.protocol === reached.protocol) && (!t.cyclic || cyclic))
    .map(([kind, { title }]) => {
      // More registers than are asked for are not noticed by whoever asks.
      const fewer = kind === 'assembly-resized' && reached.protocol === 'modbus-tcp' ? { by: -2 } : {};
      return { fault: Fault.parse({ fault: kind, ...fewer }), title };
    });
  return [...common, ...own];
}

/** A fault in words, for the trace. */
export function faultTitle(device: Device, fault: Fault): string {
  if (fault.fault !== 'device') {
    const { fault: kind, ...settings } = fault;
    const given = Object.entries(settings).filter(([, value]) => value !== null);
    const told = given.map(([key, value]) => `${key} ${value as string | number}`);
    return [titles[kind].title, ...told].join(', ');
  }
  const known = device.standIn ? behaviours[device.standIn].faults : [];
  return known.find((f) => f.id === fault.id)?.title ?? fault.id;
}

/** Two faults of one kind take each other's place; the device's own are kept apart. */
export const faultKey = (fault: Fault): string =>
  fault.fault === 'device' ? `device ${fault.id}` : fault.fault;
