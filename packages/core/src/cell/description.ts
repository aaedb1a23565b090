import { z } from 'zod';
import { descriptionParts, nothingEntered, type DescriptionOf } from '../devices/description.js';
import { protocolOf } from '../protocols/list.js';
import { Offer, type Link } from './link.js';

/** What one device of the cell offers: the parts that all protocols share, and what only its own has. */
export const Description = z.strictObject({
  ...descriptionParts,
  /** Null: not known. */
  offer: Offer.nullable().default(null),
});
export type Description = z.infer<typeof Description>;

/** The description of a device that was made by hand: its points are what its links say. */
export const descriptionByHand = (links: readonly Link[]): Description => ({
  origin: { from: 'hand' },
  identity: null,
  points: pointsOf(links),
  loss: null,
  ...nothingEntered,
  offer: null,
});

/** What a device offers over its protocol: as its description says, or as far as its first link shows it. */
export function offerOf({
  description,
  links: [first],
}: {
  description: Description;
  links: readonly Link[];
}): Offer | null {
  return description.offer ?? (first ? (protocolOf(first).offerOf(first) as Offer) : null);
}

/** The points that links exchange, each once. */
function pointsOf(links: readonly Link[]): Description['points'] {
  const points = new Map<string, Description['points'][number]>();
  for (const link of links)
    for (const point of protocolOf(link).pointsOf(link)) points.set(`${point.use} ${point.number}`, point);
  return [...points.values()];
}

/**
 * A device made by hand is described by its links alone: after an edit of them its points follow. Others stay as they
 * are.
 */
export function describedByLinks<D extends { description: DescriptionOf; links: readonly Link[] }>(
  device: D,
): D {
  if (device.description.origin.from !== 'hand') return device;
  const points = pointsOf(device.links);
  if (JSON.stringify(points) === JSON.stringify(device.description.points)) return device;
  return { ...device, description: { ...device.description, points } };
}
