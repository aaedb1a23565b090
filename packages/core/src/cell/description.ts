import { z } from 'zod';
import { descriptionParts, type DescriptionOf } from '../devices/description.js';
import { behaviours } from '../devices/list.js';
import { ownDescription } from '../devices/ownDescription.js';
import type { standIns } from '../devices/standIns.js';
import { reachOf } from '../layout/signals.js';
import { protocolOf } from '../protocols/list.js';
import { imagesOf } from './find.js';
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
  offer: null,
});

/** The description of a device that a behaviour stands in for, and that no file or table describes: what the behaviour offers, laid out as its links are. */
export const descriptionByBehaviour = (
  standIn: (typeof standIns)[number],
  links: readonly Link[],
): Description => Description.parse(links.reduce(laidOut, ownDescription(behaviours[standIn])));

/** What was laid out for an image so far was taken for right, and is the layout of its point from now on. */
function laidOut(description: DescriptionOf, link: Link): DescriptionOf {
  return imagesOf(link).reduce((known, image) => {
    const point = protocolOf(link).pointFor(link, image.direction, known);
    if (!point || point.size > image.size) return known;
    const { groups, order } = image;
    const fields = image.fields.filter((field) => reachOf(image, field) <= point.size * 8);
    const points = known.points.map((p) => (p === point ? { ...point, groups, order, fields } : p));
    return { ...known, points };
  }, description);
}

/** The points that links exchange, each once. */
function pointsOf(links: readonly Link[]): Description['points'] {
  const points = new Map<string, Description['points'][number]>();
  for (const link of links)
    for (const point of protocolOf(link).pointsOf(link)) points.set(`${point.use} ${point.number}`, point);
  return [...points.values()];
}

/** A device made by hand is described by its links alone: after an edit of them its points follow. Others stay as they are. */
export function describedByLinks<D extends { description: DescriptionOf; links: readonly Link[] }>(
  device: D,
): D {
  if (device.description.origin.from !== 'hand') return device;
  const points = pointsOf(device.links);
  if (JSON.stringify(points) === JSON.stringify(device.description.points)) return device;
  return { ...device, description: { ...device.description, points } };
}
