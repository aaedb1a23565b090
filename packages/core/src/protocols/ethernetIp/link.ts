import { z } from 'zod';
import { int } from '../../entries/entries.js';
import { linkHead, linkTail, timeoutMultiplier, updateTime } from '../link.js';

/** Real time formats of CIP Vol. 1, 3-6.1: with the 32-bit run/idle header, or modeless. */
export const RealTime = z.enum(['run-idle', 'modeless']);

/** A link over EtherNet/IP: a class 1 connection, or assemblies that are asked for at a poll time. */
export const EthernetIpLink = z.strictObject({
  ...linkHead,
  protocol: z.literal('ethernet-ip'),
  /** Names of CIP Vol. 1, 3-6.4, and our own for requests at a poll time. */
  connection: z.enum([
    'exclusive-owner',
    'input-only',
    'listen-only',
    'polled-connected',
    'polled-unconnected',
  ]),
  /** Requested packet interval, or poll time, controller → device. */
  commandRpi: updateTime,
  /** Requested packet interval, or poll time, device → controller. */
  feedbackRpi: updateTime,
  timeoutMultiplier,
  /** Whether the device sends to this controller alone or to a group. */
  toController: z.enum(['point-to-point', 'multicast']).default('point-to-point'),
  /** What makes the device send: the time alone, or each change as well. */
  trigger: z.enum(['cyclic', 'change-of-state']).default('cyclic'),
  commandFormat: RealTime.default('run-idle'),
  feedbackFormat: RealTime.default('modeless'),
  configuration: z.strictObject({
    instance: int(1, 0xffff),
    /** Sent with the opening request; hex digits, two a byte, 0 to 200 bytes. */
    data: z.string().regex(/^([0-9A-F]{2}){0,200}$/, 'is no run of upper-case hex pairs'),
  }),
  ...linkTail,
});
export type EthernetIpLink = z.infer<typeof EthernetIpLink>;

/** What an EtherNet/IP device offers beside its connection points. */
export const EthernetIpOffer = z.strictObject({
  protocol: z.literal('ethernet-ip'),
  /** False: explicit messages only. */
  cyclic: z.boolean(),
  commandFormat: RealTime,
  feedbackFormat: RealTime,
});
export type EthernetIpOffer = z.infer<typeof EthernetIpOffer>;

/** Whether its images are asked for by requests instead of being sent in a class 1 connection. */
export const isPolled = ({ connection }: Pick<EthernetIpLink, 'connection'>): boolean =>
  connection === 'polled-connected' || connection === 'polled-unconnected';

/** Whether the controller only listens, and sends heartbeats instead of commands. */
export const onlyListens = ({ connection }: Pick<EthernetIpLink, 'connection'>): boolean =>
  connection === 'input-only' || connection === 'listen-only';
