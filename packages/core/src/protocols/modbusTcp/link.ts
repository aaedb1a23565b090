import { z } from 'zod';
import { id, int, maxImageBits, maxImageBytes, name } from '../../entries/entries.js';
import { holdsBits, registerTables } from '../../layout/registerTables.js';
import { linkHead, linkTail, timeoutMultiplier, updateTime } from '../link.js';

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

/** A link over Modbus TCP: blocks that are read and written at a poll time each. */
export const ModbusTcpLink = z.strictObject({
  ...linkHead,
  protocol: z.literal('modbus-tcp'),
  connection: z.literal('blocks'),
  /** Unit identifier: 255 or 0 is the device itself. */
  unit: int(0, 255).default(255),
  /** TCP port of the device. */
  port: int(1, 0xffff).default(502),
  timeoutMultiplier,
  blocks: z.array(Block).max(64).default([]),
  ...linkTail,
});

/** What a device of registers offers beside its runs of registers. */
export const ModbusTcpOffer = z.strictObject({
  protocol: z.literal('modbus-tcp'),
  /** Silence after which it takes its controller for lost, ms; null: never, or not known. */
  watchdogMs: int(1, 600_000).nullable().default(null),
});

export type Block = z.infer<typeof Block>;
export type ModbusTcpLink = z.infer<typeof ModbusTcpLink>;
export type ModbusTcpOffer = z.infer<typeof ModbusTcpOffer>;

/** Bytes that a block takes in its image. */
export const blockBytes = ({ table, count }: Pick<Block, 'table' | 'count'>): number =>
  holdsBits(table) ? Math.ceil(count / 8) : count * 2;
