import { z } from 'zod';
import { id, int, maxImageBits, maxImageBytes, name, printable, text } from '../entries/entries.js';
import { ByteOrder, Field } from './field.js';
import { Numbering } from './notation.js';

/** A run of fields that comes `count` times: channel 1 … n, port 1 … n, axis 1 … n; it may lie in another group. */
export const Group = z.strictObject({
  id,
  /** Name of one repetition; the signals are called after it and its number: channel_1.level. */
  name,
  count: int(1, 1500),
  /** From one repetition to the next, bits. */
  stride: int(1, maxImageBits),
  parent: id.nullable().default(null),
  /** Number of the first repetition. */
  first: int(0, 9999).default(1),
});

/** A value that is computed from the fields of an image. */
export const Derived = z.strictObject({
  id,
  name,
  /** In the language of layout/expression.ts. */
  expression: printable(400).min(1, 'is empty'),
  /** How far the true value may lie from it, on either side; empty when it is exact. */
  uncertainty: printable(200).default(''),
  unit: printable(16).default(''),
  note: text,
});

const imageShape = {
  id,
  /** Assembly instance, CIP class 16#04; 0 where the protocol has none. */
  instance: int(0, 0xffff),
  /** Bytes of application data, without sequence count and run/idle header. */
  size: int(0, maxImageBytes),
  /** First byte in the controller's output area (command) or input area (feedback). */
  start: int(0, 1_048_575),
  /** Null: not stated; read as little-endian. */
  order: ByteOrder.nullable().default(null),
  /** The two bytes of each 16-bit word change places between the device and the controller, as in some gateways. */
  swapped: z.boolean().default(false),
  numbering: Numbering.nullable().default(null),
  groups: z.array(Group).max(200).default([]),
  fields: z.array(Field).max(4000),
};

export const CommandImage = z.strictObject({ ...imageShape, direction: z.literal('command') });
export const FeedbackImage = z.strictObject({
  ...imageShape,
  derived: z.array(Derived).max(200).default([]),
  direction: z.literal('feedback'),
});

export type Group = z.infer<typeof Group>;
export type Derived = z.infer<typeof Derived>;
export type CommandImage = z.infer<typeof CommandImage>;
export type FeedbackImage = z.infer<typeof FeedbackImage>;
export type Image = CommandImage | FeedbackImage;
export type Direction = Image['direction'];

/** How messages call an image: device name and direction. */
export const imageTitle = (device: { name: string }, direction: Direction): string =>
  `${device.name} ${direction}`;
