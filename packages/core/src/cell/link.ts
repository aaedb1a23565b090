import { z } from 'zod';
import { id, int, maxImageBits, maxImageBytes, name, printable } from './entries.js';
import { CommandImage, FeedbackImage } from './image.js';

/** How one device is reached. Times are microseconds, sizes bytes. */

const updateTime = int(500, 10_000_000);

/** The four tables of the Modbus data model (Application Protocol V1.1b3, 4.3). */
export const registerTables = ['coils', 'discrete', 'holding', 'input'] as const;

/** A run of registers or bits that is read or written together, and where its bytes lie in the image. */
export const Block = z.strictObject({
  id,
  name,
  direction: z.enum(['command', 'feedback']),
  table: z.enum(registerTables),
  /** First address on the wire, from 0 (reference 400001 is 0). */
  start: int(0, 0xffff),
  /** Registers, or bits. */
  count: int(1, 6000),
  /** How often it is read or written, µs. */
  poll: updateTime,
  /** First byte in the image of its direction; a register takes two bytes, high byte first, eight bits take one. */
  at: int(0, maxImageBytes - 1),
  /** Bit of the feedback image that says that the block is fresh; null: it is not shown there. */
  fresh: int(0, maxImageBits - 1)
    .nullable()
    .default(null),
  /** First byte of the 16 bits of the feedback image that show its age in ms, high byte first. */
  age: int(0, maxImageBytes - 2)
    .nullable()
    .default(null),
});

/** One submodule of a PROFINET device, in the order of plugging: its bytes lie behind those of the ones before it. */
export const Slot = z.strictObject({
  slot: int(0, 0x7fff),
  subslot: int(1, 0xffff),
  /** Id of the module in its description, and the numbers by which the device knows both. */
  module: printable(80),
  moduleIdent: int(0, 0xffff_ffff),
  submoduleIdent: int(0, 0xffff_ffff),
  title: printable(64).default(''),
  /** Bytes of process data, from the device and to it. */
  inputs: int(0, maxImageBytes),
  outputs: int(0, maxImageBytes),
});

/** What each protocol offers; the names of CIP Vol. 1, 3-6.4, and our own for requests at a poll time and for blocks. */
export const connectionsOf = {
  'ethernet-ip': ['exclusive-owner', 'input-only', 'listen-only', 'polled-connected', 'polled-unconnected'],
  'modbus-tcp': ['blocks'],
  profinet: ['cyclic-rt'],
} as const;
export const protocols = ['ethernet-ip', 'modbus-tcp', 'profinet'] as const;

export const Link = z.strictObject({
  id,
  protocol: z.enum(protocols),
  connection: z.enum([
    ...connectionsOf['ethernet-ip'],
    ...connectionsOf['modbus-tcp'],
    ...connectionsOf.profinet,
  ]),
  /** Requested packet interval, or poll time, controller → device. */
  commandRpi: updateTime,
  /** Requested packet interval, or poll time, device → controller. */
  feedbackRpi: updateTime,
  /** A side gives the connection up after this many intervals without a packet (CIP Vol. 1, 3-5.5.1.4). */
  timeoutMultiplier: z.union([4, 8, 16, 32, 64, 128, 256, 512].map((n) => z.literal(n))),
  /** What the device does with its outputs when the connection is lost. */
  onLoss: z.enum(['drop', 'hold']),
  /** Whether the device sends to this controller alone or to a group. */
  toController: z.enum(['point-to-point', 'multicast']).default('point-to-point'),
  /** What makes the device send: the time alone, or each change as well. */
  trigger: z.enum(['cyclic', 'change-of-state']).default('cyclic'),
  /** Real time format of the commands, CIP Vol. 1, 3-6.1: with the 32-bit run/idle word, or bare. */
  commandFormat: z.enum(['run-idle', 'modeless']).default('run-idle'),
  feedbackFormat: z.enum(['run-idle', 'modeless']).default('modeless'),
  configuration: z.strictObject({
    instance: int(1, 0xffff),
    /** Sent with the opening request; hex digits, two a byte, 0 to 200 bytes. */
    data: z.string().regex(/^([0-9A-F]{2}){0,200}$/, 'is no run of upper-case hex pairs'),
  }),
  /** Modbus unit identifier: 255 or 0 is the device itself. */
  unit: int(0, 255).default(255),
  /** TCP port of a Modbus device. */
  port: int(1, 0xffff).default(502),
  blocks: z.array(Block).max(64).default([]),
  /** What is plugged into a PROFINET device. */
  slots: z.array(Slot).max(512).default([]),
  command: CommandImage,
  feedback: FeedbackImage,
});

/** Bytes that a block takes in its image. */
export const blockBytes = ({ table, count }: Pick<Block, 'table' | 'count'>): number =>
  table === 'coils' || table === 'discrete' ? Math.ceil(count / 8) : count * 2;

export type Slot = z.infer<typeof Slot>;
export type Block = z.infer<typeof Block>;
export type Link = z.infer<typeof Link>;
