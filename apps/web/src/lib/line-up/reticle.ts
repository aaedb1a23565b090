import { linkBudget, protocolOf, type Device, type Link } from '@fadenkreuz/core';

/** The picture of the line-up: where each device stands around the controller. All lengths in units of the picture. */

/** Update times that have a ring, ms. */
export const ringTimes = [1, 4, 16, 64, 256] as const;
/** Half of the picture's edge. */
export const reach = 330;
const innerRing = 84;
const ringStep = 50;
/** Room between the outermost ring and the names. */
export const outerRing = innerRing + ringStep * (ringTimes.length - 1);

/** The shortest time between two packets or questions of a link, ms. */
export const updateMs = (link: Link): number => protocolOf(link).times(link).quickestMs;

/** Distance from the controller of an update time: each ring is four times the one before. */
export function radiusOf(ms: number): number {
  const rings = Math.log2(Math.max(ms, 0.5)) / 2;
  return innerRing + ringStep * Math.min(rings, ringTimes.length - 0.6);
}

/** Width of the line to a device that so many bytes a second pass. */
export const strokeOf = (bytesPerSecond: number): number =>
  Math.min(9, 1 + Math.max(0, Math.log10(bytesPerSecond / 500)) * 2.2);

export interface Mark {
  device: Device;
  x: number;
  y: number;
  /** Where its name stands, and on which side of the point. */
  labelX: number;
  labelY: number;
  anchor: 'start' | 'middle' | 'end';
  stroke: number;
  /** Undefined for a device without a link. */
  updateMs: number | undefined;
}

/** Names are shown where so many fit. */
export const mostNamed = 40;

/** Every device at its ring, evenly around the controller in the order of the line-up, the first one at the top. */
export function marksOf(devices: readonly Device[]): Mark[] {
  return devices.map((device, i) => {
    const angle = (i / devices.length) * 2 * Math.PI - Math.PI / 2;
    const [link] = device.links;
    const ms = link && updateMs(link);
    const radius = ms === undefined ? outerRing + ringStep / 2 : radiusOf(ms);
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    const budgets = device.links.map((l) => linkBudget(l, 0));
    const bytes = budgets.reduce((sum, b) => sum + b.command.bytesPerSecond + b.feedback.bytesPerSecond, 0);
    const upright = Math.abs(cos) < 0.25;
    return {
      device,
      x: cos * radius,
      y: sin * radius,
      labelX: cos * radius + (upright ? 0 : cos * 14),
      labelY: sin * radius + (upright ? Math.sign(sin) * 22 : sin * 14) + 4,
      anchor: upright ? 'middle' : cos > 0 ? 'start' : 'end',
      stroke: strokeOf(bytes),
      updateMs: ms,
    };
  });
}

/** So many letters of a name have room beside its mark. */
const roomFor = 24;
/** A name where it has room: of a longer one its begin and its end, which tell it from others. */
export const shortName = (name: string): string =>
  name.length <= roomFor ? name : `${name.slice(0, roomFor / 2)}…${name.slice(1 - roomFor / 2)}`;
