import { z } from 'zod';
import { id, int, maxImageBytes, name, printable } from '../entries/entries.js';

const placeholders = [
  'unit',
  'unit:hex',
  'unit:5',
  'unit:6',
  'bit',
  'area',
  'array',
  'device',
  'slot',
  'subslot',
];

/**
 * A way to write addresses, as data: which units are counted, from which number, and how the text looks. The standard
 * ones stand in layout/notations.ts; a cell can bring its own.
 */
export const Notation = z
  .strictObject({
    id,
    title: name,
    /** Whose addresses it writes. */
    side: z.enum(['device', 'controller']),
    /**
     * The text, with {unit} ({unit:hex}, {unit:5} and {unit:6} digits), {bit}, {area} (I or Q), {array} (fb or cmd),
     * {device}, {slot}, {subslot}.
     */
    pattern: printable(60)
      .min(1, 'is empty')
      .refine((p) => /\{unit(:(hex|5|6))?\}/.test(p), 'counts nothing: it has no {unit}')
      .refine(
        (p) => [...p.matchAll(/\{([^}]*)\}/g)].every(([, key]) => placeholders.includes(key!)),
        `has a placeholder that is not among ${placeholders.map((p) => `{${p}}`).join(' ')}`,
      ),
    /** Bits of one counted unit; `element`: the controller's elements; `field`: units are the fields, by name. */
    unitBits: z.union([
      z.literal(1),
      z.literal(8),
      z.literal(16),
      z.literal(32),
      z.literal(64),
      z.literal('element'),
      z.literal('field'),
    ]),
    /**
     * Whether the low bits of a unit lie in its first byte (little) or in its last; `image` and `element`: as in the
     * byte order of the image or of the controller's elements.
     */
    order: z.enum(['little', 'big', 'image', 'element']),
    /** What the number of a unit rises by: 1, the bytes of a unit, or as the controller counts its direct addresses. */
    counts: z.enum(['units', 'bytes', 'controller']),
    /** Where counting starts: at the image, or at the controller's input or output area. */
    from: z.enum(['image', 'area']),
    /** The number of the first unit. */
    first: int(0, 1_000_000),
    /** The number of the lowest bit of a unit. */
    firstBit: int(0, 1),
    /** The greatest number that it can write, where it ends. */
    last: int(0, 10_000_000).nullable().default(null),
    /** Units are numbered by the image's own signal ranges instead. */
    ranges: z.boolean().default(false),
  })
  .refine((n) => n.unitBits !== 1 || !n.pattern.includes('{bit}'), {
    path: ['pattern'],
    message: 'has {bit}, but its units are single bits',
  });

/** Signals that are numbered in a range of their own: `first` is the number of the signal at point `point`. */
export const SignalRange = z.strictObject({
  first: int(0, 1_000_000),
  count: int(1, 12_000),
  /** Point that the range starts at, counted from 1: point 12 is bit 11. */
  point: int(1, 12_000),
});

/** A part of an image whose units the manual counts anew, under a name of its own. */
export const NumberedBlock = z.strictObject({
  /** Stands before its addresses: `status: word 1 · bit 3`. */
  name,
  /** Its first byte in the image; it ends where the next one begins. */
  at: int(0, maxImageBytes - 1),
  /** Number of its first unit. */
  first: int(0, 1_000_000),
});

/** How the device's manual numbers an image. */
export const Numbering = z.strictObject({
  /** A notation of the device's side. */
  notation: id,
  /** Units that lie before the image: 40 when the manual calls its first word 40 and counts from 0. */
  before: int(0, 1_000_000).default(0),
  slot: int(0, 65_535).default(0),
  subslot: int(0, 65_535).default(0),
  signals: z.array(SignalRange).max(64).default([]),
  /** Blocks with bases of their own; what lies before the first is counted from the begin of the image. */
  blocks: z.array(NumberedBlock).max(64).default([]),
});

/**
 * How a controller counts its direct addresses (IEC 61131-3:2013, 6.5.5.2, leaves it to the implementer). `bytes`:
 * %IW2 is bytes 2 and 3, %IX2.7 a bit of byte 2. `units`: each size counts its own, %IW1 is bytes 2 and 3, %ID1 bytes
 * 4 to 7. `words`: all sizes count words, %IW1 is bytes 2 and 3, %ID2 bytes 4 to 7, %IX1.15 a bit of word 1.
 */
export const DirectCounting = z.strictObject({
  counts: z.enum(['bytes', 'units', 'words']),
  /** Bytes that lie before the first image of the input and of the output area. */
  inputFrom: int(0, 1_000_000),
  outputFrom: int(0, 1_000_000),
});

export type Notation = z.infer<typeof Notation>;
export type SignalRange = z.infer<typeof SignalRange>;
export type Numbering = z.infer<typeof Numbering>;
export type NumberedBlock = z.infer<typeof NumberedBlock>;
export type DirectCounting = z.infer<typeof DirectCounting>;
