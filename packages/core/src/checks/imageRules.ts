import { firstFree } from '../cell/copies.js';
import { allImages } from '../cell/find.js';
import { elementsOf } from '../cell/scene.js';
import { layoutContradictions } from '../layout/contradictions.js';
import { imageTitle } from '../layout/image.js';
import { finding } from '../messages/finding.js';
import { pointTitle } from '../devices/description.js';
import { protocolOf } from '../protocols/list.js';
import { eachImage, type Rule } from './rule.js';

/** An image's bytes are no whole number of the controller's elements. */
export const imageNotWholeElements: Rule = (cell) =>
  allImages(cell)
    .map((place) => ({ ...place, elementBits: elementsOf(cell, place.link).elementBits }))
    .filter(({ image, elementBits }) => (image.size * 8) % elementBits !== 0)
    .map(({ device, image, elementBits }) =>
      finding(
        'image.notWholeElements',
        'warning',
        { device: device.id, image: image.id },
        {
          image: imageTitle(device, image.direction),
          size: image.size,
          elementBits,
        },
      ),
    );

/**
 * The layout of an image contradicts that of the connection point which it exchanges: bits that are read as something
 * else, or in another unit or scale. What is laid out in part only, or under other names, is no contradiction.
 */
export const layoutAgainstPoint = eachImage(({ device, link, image }) => {
  const point = protocolOf(link).pointFor(link, image.direction, device.description);
  // A wrong size is another finding, and says more.
  if (!point?.fields || (point.size !== image.size && !point.registers)) return [];
  const fields = layoutContradictions(image, { ...point, fields: point.fields });
  if (fields.length === 0) return [];
  const place = { device: device.id, image: image.id };
  return finding('image.layoutDiffers', 'warning', place, {
    image: imageTitle(device, image.direction),
    point: pointTitle(point),
    fields: fields.slice(0, 3).join('; '),
    count: fields.length,
  });
});

/** Two images use the same byte of the controller's input or output area. */
export const imageAreaOverlap: Rule = (cell) =>
  (['command', 'feedback'] as const).flatMap((direction) => {
    const places = allImages(cell)
      .filter(({ image }) => image.direction === direction && image.size > 0)
      .sort((a, b) => a.image.start - b.image.start);
    const free = firstFree(cell, direction);
    return places.slice(1).flatMap((later, i) => {
      const before = places[i]!;
      if (later.image.start >= before.image.start + before.image.size) return [];
      return finding(
        'image.areaOverlap',
        'error',
        { device: later.device.id, image: later.image.id },
        {
          first: imageTitle(before.device, direction),
          second: imageTitle(later.device, direction),
          direction: direction === 'command' ? 'output' : 'input',
          byte: later.image.start,
        },
        {
          title: `Start ${imageTitle(later.device, direction)} at byte ${free}`,
          edit: { edit: 'image.set', image: later.image.id, set: { start: free } },
        },
      );
    });
  });
