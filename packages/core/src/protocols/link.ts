import { z } from 'zod';
import { id, int } from '../entries/entries.js';
import { CommandImage, FeedbackImage } from '../layout/image.js';

/**
 * What the links of all protocols have in common: how one device is reached. Each protocol extends it by what it alone
 * has (protocols/NAME/link.ts). Times are microseconds, sizes bytes.
 */

/** A time between two packets or questions, µs. */
export const updateTime = int(500, 10_000_000);

/**
 * A side gives a link up after this many intervals without a packet (CIP Vol. 1, 3-5.5.1.4); other protocols count in
 * the same steps.
 */
export const timeoutMultiplier = z.union([4, 8, 16, 32, 64, 128, 256, 512].map((n) => z.literal(n)));

/**
 * How the controller's program sees the bytes of a link as elements, where that is another way than its protocol's or
 * its controller's; null: as those.
 */
export const Elements = z.strictObject({
  bits: z
    .union([z.literal(8), z.literal(16), z.literal(32), z.literal(64)])
    .nullable()
    .default(null),
  /** Whether the low bits of an element come from its first byte (little) or from its last. */
  order: z.enum(['little', 'big']).nullable().default(null),
});
export type Elements = z.output<typeof Elements>;
export const usualElements: Elements = { bits: null, order: null };
/** The entries that every link has, before anything is said. */
export const nothingSaid = { elements: usualElements, reaction: null };

/** Parts of every link that stand before those of its protocol in a file; the images come last. */
export const linkHead = { id };
export const linkTail = {
  /** What the device does with its outputs when the connection is lost. */
  onLoss: z.enum(['drop', 'hold']),
  elements: Elements.default(usualElements),
  /** The slowest worst reaction that the machine can bear, µs; null: none was asked for. */
  reaction: int(1, 60_000_000).nullable().default(null),
  command: CommandImage,
  feedback: FeedbackImage,
};

/** A link of whatever protocol. */
export interface LinkBase {
  id: string;
  protocol: string;
  connection: string;
  onLoss: 'drop' | 'hold';
  elements: Elements;
  reaction: number | null;
  command: CommandImage;
  feedback: FeedbackImage;
}

/** Update times of both directions, and the silence after which a side gives the link up, ms. */
export interface LinkTimes {
  /** Where parts of an image have times of their own, the slowest. */
  commandMs: number;
  feedbackMs: number;
  /** The shortest time between two packets or questions. */
  quickestMs: number;
  lossMs: number;
}
