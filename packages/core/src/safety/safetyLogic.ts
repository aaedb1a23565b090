import { z } from 'zod';
import { id, int, printable, text } from '../entries/entries.js';

/**
 * What the safety controller of a cell does, as a small network: inputs, logic, outputs; and where its status bits
 * stand. It says what a status bit means, and lets one see it; nothing of it is a safety function, and what goes over a
 * standard protocol is status only.
 */

const seconds = z.number().min(0).max(3600);
const base = { id, name: printable(40).min(1, 'is empty') };
/** The value that another block gives, or its opposite. */
const Wire = z.strictObject({ from: id, not: z.boolean().default(false) });
export type Wire = z.infer<typeof Wire>;
const wires = z.array(Wire).max(16).default([]);

export const LogicBlock = z.discriminatedUnion('is', [
  // Inputs: 1 where the machine may run.
  z.strictObject({
    ...base,
    is: z.literal('curtain'),
    beams: int(1, 256).default(16),
    /** mm from beam to beam, and of the lowest one above its foot. */
    pitch: z.number().positive().max(1000).default(20),
    lowest: z.number().min(0).max(10_000).default(0),
  }),
  z.strictObject({ ...base, is: z.literal('door') }),
  z.strictObject({ ...base, is: z.literal('emergency stop') }),
  z.strictObject({ ...base, is: z.literal('button') }),
  z.strictObject({
    ...base,
    is: z.literal('two-hand'),
    /** Both hands must come within so many seconds: ISO 13851, 0.5 s (from memory). */
    within: seconds.default(0.5),
  }),
  // A selector: 1 in one of its positions.
  z.strictObject({ ...base, is: z.literal('mode'), position: int(0, 99).default(1) }),
  // Logic.
  z.strictObject({ ...base, is: z.literal('and'), in: wires }),
  z.strictObject({ ...base, is: z.literal('or'), in: wires }),
  z.strictObject({ ...base, is: z.literal('not'), in: wires }),
  z.strictObject({ ...base, is: z.literal('delay on'), in: wires, after: seconds.default(0.5) }),
  z.strictObject({ ...base, is: z.literal('delay off'), in: wires, after: seconds.default(0.5) }),
  /** Its first wire is what it guards, its second one the reset; it must be let go, too: ISO 13849-1 (from memory). */
  z.strictObject({
    ...base,
    is: z.literal('reset'),
    in: wires,
    edge: z.enum(['rising', 'falling']).default('falling'),
    /** After power-on it waits for its reset, or lets run what is safe. */
    start: z.enum(['waits', 'runs']).default('waits'),
  }),
  /** What it bridges, then its two sensors, which must come within a time of each other. */
  z.strictObject({
    ...base,
    is: z.literal('muting'),
    in: wires,
    within: seconds.default(4),
    longest: seconds.default(600),
  }),
  z.strictObject({ ...base, is: z.literal('output'), in: wires }),
]);
export type LogicBlock = z.infer<typeof LogicBlock>;
export type BlockType = LogicBlock['is'];

/** A status bit: what it shows, and where it stands. */
export const StatusBit = z.strictObject({
  id,
  /** The block whose value it is. */
  from: id,
  /** Its value; that a muting acts; that a reset is waited for; that a beam of a curtain arrives. */
  shows: z.enum(['value', 'muting', 'reset wanted', 'beam']).default('value'),
  /** Of a curtain, from 1. */
  beam: int(1, 256).default(1),
  not: z.boolean().default(false),
  /** Name of a block of the feedback image; empty: the image itself. */
  block: printable(40).default(''),
  /** Bytes behind the begin of that block, and bit of the byte. */
  offset: int(0, 1499),
  bit: int(0, 7),
});
export type StatusBit = z.infer<typeof StatusBit>;

/** Who said that the network is what the controller does, and of which content. */
export const Approval = z.strictObject({
  by: printable(60).min(1, 'is empty'),
  /** ISO 8601, UTC. */
  at: z.iso.datetime(),
  /** SHA-256 of what was approved, 64 hex digits. */
  hash: z.string().regex(/^[0-9a-f]{64}$/, 'is no SHA-256 of 64 hex digits'),
});
export type Approval = z.infer<typeof Approval>;

export const SafetyLogic = z.strictObject({
  blocks: z.array(LogicBlock).max(120).default([]),
  status: z.array(StatusBit).max(200).default([]),
  approval: Approval.nullable().default(null),
  note: text,
});
export type SafetyLogic = z.infer<typeof SafetyLogic>;
export const emptyLogic: SafetyLogic = SafetyLogic.parse({});
