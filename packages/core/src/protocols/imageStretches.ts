import { pointsFor, type ConnectionPoint, type DescriptionOf } from '../devices/description.js';
import type { Direction } from '../layout/image.js';
import { holdsBits } from '../layout/registerTables.js';
import { protocolOf } from './list.js';
import type { LinkBase } from './link.js';

/** Bytes of an image that stand side by side in one point of the device. */
export interface ImageStretch {
  point: Pick<ConnectionPoint, 'number' | 'use'>;
  /** First byte in the image, and in the point. */
  from: number;
  at: number;
  bytes: number;
}

/** Where the bytes of an image stand in the points of its device; bytes that it has no point for are in none. */
export function imageStretches(
  link: LinkBase,
  direction: Direction,
  description: Pick<DescriptionOf, 'points'> & DescriptionOf,
): ImageStretch[] {
  const protocol = protocolOf(link);
  const runs = protocol.runs?.(link, direction);
  if (!runs) {
    const point = protocol.pointFor(link, direction, description);
    return point ? [{ point, from: 0, at: 0, bytes: Math.min(point.size, link[direction].size) }] : [];
  }
  return runs.flatMap(({ table, start, count, at: from }) => {
    const bits = holdsBits(table);
    for (const point of [...pointsFor(description, direction), ...pointsFor(description, 'configuration')]) {
      if (point.registers?.table !== table) continue;
      const first = start - point.registers.start;
      const at = bits ? first / 8 : first * 2;
      const bytes = bits ? Math.ceil(count / 8) : count * 2;
      // Bits that do not begin with a byte of the point would have to be shifted.
      if (Number.isInteger(at) && at >= 0 && at + bytes <= point.size) return [{ point, from, at, bytes }];
    }
    return [];
  });
}
