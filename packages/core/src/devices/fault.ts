import { z } from 'zod';
import { dottedQuad } from '../entries/entries.js';

/** Faults that can be injected at a stand-in, and what each of them is told. */

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
  /**
   * Back to the settings that it left the factory with; null: to the address that the plan knows of, or the usual one.
   */
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

/** A fault of this kind with its default settings, and with those that are given. */
export const faultOf = (kind: Exclude<FaultKind, 'device'>, settings: object = {}): Fault =>
  Fault.parse({ fault: kind, ...settings });

/** Two faults of one kind take each other's place; the device's own are kept apart. */
export const faultKey = (fault: Fault): string =>
  fault.fault === 'device' ? `device ${fault.id}` : fault.fault;

/** Faults that every device can have, whatever it speaks. */
export const commonFaults = [
  'cable-pulled',
  'power-cycled',
  'wrong-device',
  'factory-address',
  'asks-for-address',
  'assembly-resized',
  'slow',
  'busy',
  'frozen',
  'out-of-range',
] as const satisfies FaultKind[];

/** Faults of packets that come by themselves. */
export const packetFaults = [
  'packets-lost',
  'packets-delayed',
  'packets-doubled',
  'packets-reordered',
] as const satisfies FaultKind[];
