import { allImages, type ImagePlace } from '../cell/find.js';
import type { Image } from '../layout/image.js';
import type { Cell, Device } from '../cell/model.js';
import type { Finding } from '../messages/finding.js';

/** One check of the design: takes a cell, says what it finds, never throws. */
export type Rule = (cell: Cell) => Finding[];

/** What of a cell an image is judged by, besides itself and its device. */
type Surroundings = Pick<Cell, 'controller' | 'notations'>;

/**
 * A rule that judges each image by itself. Images are never changed, only replaced, so what was found of one stands
 * until it, its device or its surroundings are others: after an edit, only what was edited is judged anew.
 */
export function eachImage(judge: (place: ImagePlace, cell: Surroundings) => Finding | Finding[]): Rule {
  const judged = new WeakMap<Image, { by: readonly unknown[]; findings: Finding[] }>();
  return (cell) =>
    allImages(cell).flatMap((place) => {
      const by = [place.device, cell.controller, cell.notations];
      const before = judged.get(place.image);
      if (before && by.every((part, i) => part === before.by[i])) return before.findings;
      const findings = [judge(place, cell)].flat();
      judged.set(place.image, { by, findings });
      return findings;
    });
}

/**
 * A rule that judges each device by itself. Devices are never changed, only replaced: what was found of one stands
 * until then.
 */
export function eachDevice(judge: (device: Device) => Finding | Finding[]): Rule {
  const judged = new WeakMap<Device, Finding[]>();
  return ({ devices }) =>
    devices.flatMap((device) => {
      const findings = judged.get(device) ?? [judge(device)].flat();
      judged.set(device, findings);
      return findings;
    });
}

/** The values that share a key, groups in the order of their first member. */
export function groupsBy<T>(values: readonly T[], keyOf: (value: T) => string): T[][] {
  const groups = new Map<string, T[]>();
  for (const value of values) {
    const key = keyOf(value);
    const group = groups.get(key);
    if (group) group.push(value);
    else groups.set(key, [value]);
  }
  return [...groups.values()];
}
