import type { DescriptionOf } from '../devices/description.js';
import { behaviours } from '../devices/list.js';
import { ownDescription } from '../devices/ownDescription.js';
import type { standIns } from '../devices/standIns.js';
import { reachOf } from '../layout/signals.js';
import { protocolOf } from '../protocols/list.js';
import { Description } from './description.js';
import { imagesOf } from './find.js';
import type { Link } from './link.js';

/**
 * The description of a device that a behaviour stands in for, and that no file or table describes: what the behaviour
 * offers, laid out as its links are.
 */
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
    // Nothing was laid out: then what its bytes mean is not known, and what is laid out later is not held against it.
    const inside = image.fields.filter((field) => reachOf(image, field) <= point.size * 8);
    const fields = inside.length > 0 ? inside : null;
    const points = known.points.map((p) => (p === point ? { ...point, groups, order, fields } : p));
    return { ...known, points };
  }, description);
}
