import { behaviours } from '../behaviours/behaviours.js';
import { firstFree } from '../cell/copies.js';
import { allImages, imageTitle } from '../cell/find.js';
import { finding, type Finding } from '../messages/finding.js';
import { sizeReading } from './sizeReading.js';
import type { Rule } from './rule.js';

/** An image's bytes are no whole number of the controller's elements. */
export const imageNotWholeElements: Rule = (cell) =>
  allImages(cell)
    .filter(({ image }) => (image.size * 8) % cell.controller.elementBits !== 0)
    .map(({ device, image }) =>
      finding(
        'image.notWholeElements',
        'warning',
        { device: device.id, image: image.id },
        {
          image: imageTitle(device, image.direction),
          size: image.size,
          elementBits: cell.controller.elementBits,
        },
      ),
    );

/** Instance or size differ from what the kind of device is known to have. */
export const imageAgainstDevice: Rule = (cell) =>
  allImages(cell).flatMap(({ device, link, image }) => {
    if (!device.standIn || behaviours[device.standIn].reached.protocol !== 'ethernet-ip') return [];
    // A connection that only listens sends heartbeats to a point of their own.
    const { connection } = device.links.find((l) => l.id === link.id)!;
    const listens = connection === 'input-only' || connection === 'listen-only';
    const use = image.direction === 'command' && listens ? connection : image.direction;
    const known = behaviours[device.standIn].assemblies.filter((a) => a.use === use);
    const place = { device: device.id, image: image.id };
    const title = imageTitle(device, image.direction);
    const assembly = known.find((a) => a.instance === image.instance);
    if (!assembly)
      return [
        finding('image.instanceUnknown', 'error', place, {
          image: title,
          instance: image.instance,
          known: known.map((a) => `${a.instance} (${a.size} bytes)`).join(', '),
        }),
      ];
    if (assembly.size === image.size) return [];
    const sizes = { image: title, planned: image.size, actual: assembly.size };
    const factor = sizeReading(image.size, assembly.size);
    const mend: Finding['mend'] = {
      title: `Enter ${assembly.size} bytes`,
      edit: { edit: 'image.set', image: image.id, set: { size: assembly.size } },
    };
    return [
      factor
        ? finding('image.sizeFactor', 'error', place, { ...sizes, ...factor }, mend)
        : finding('image.sizeDiffers', 'error', place, sizes, mend),
    ];
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
