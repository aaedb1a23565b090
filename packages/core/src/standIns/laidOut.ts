import { RoleImage } from '../devices/byRoles/roleImage.js';
import {
  saysRoles,
  type ConnectionPoint,
  type DescriptionOf,
  type PointUse,
} from '../devices/description.js';
import type { LinkBase } from '../protocols/link.js';
import { imageStretches, type ImageStretch } from '../protocols/imageStretches.js';

/** A point of a running device with the bytes that it shows or takes. */
export interface PointBytes extends Pick<ConnectionPoint, 'number' | 'use'> {
  readonly bytes: Uint8Array;
}

/** An image by roles and fields, and where its bytes stand in the points of the device. */
export interface LaidImage {
  image: RoleImage;
  stretches: readonly ImageStretch[];
}

/**
 * What the bytes of a device mean to itself: as its description lays them out where that says what its fields are for,
 * whatever was planned; else as its link is planned.
 */
export class LaidOut {
  /** The image of the link, or one for each point of that use; that of the link comes first. */
  readonly commands: readonly [LaidImage, ...LaidImage[]];
  readonly feedbacks: readonly [LaidImage, ...LaidImage[]];
  /** Points of configuration data; none where the description does not lay them out. */
  readonly settings: readonly LaidImage[];
  /** As planned: names that only the plan has are looked up here. */
  private readonly planned: readonly LaidImage[];

  constructor(link: LinkBase, description: DescriptionOf) {
    const ofLink = (direction: 'command' | 'feedback'): LaidImage => ({
      image: new RoleImage(link[direction]),
      stretches: imageStretches(link, direction, description),
    });
    const [command, feedback] = [ofLink('command'), ofLink('feedback')];
    this.planned = [feedback, command];
    const own = saysRoles(description);
    const ofPoints = (use: PointUse, planned?: LaidImage): LaidImage[] => {
      const points = description.points.filter((p) => p.use === use && p.fields !== null);
      const first = planned?.stretches[0]?.point.number;
      return points.sort((a, b) => Number(b.number === first) - Number(a.number === first)).map(laidPoint);
    };
    this.commands = nonEmpty(own ? ofPoints('command', command) : [], command);
    this.feedbacks = nonEmpty(own ? ofPoints('feedback', feedback) : [], feedback);
    this.settings = own ? ofPoints('configuration') : [];
  }

  /** The command image of a point; that of the link where the point has none. */
  commandOf(point: number): LaidImage {
    return (
      this.commands.find(({ stretches }) => stretches.some((s) => s.point.number === point)) ??
      this.commands[0]
    );
  }

  /** The value of a role or a field as the points hold it: as it is shown, else as it is commanded. */
  valueOf(name: string, points: readonly PointBytes[]): number | undefined {
    for (const laid of [...this.feedbacks, ...this.commands, ...this.planned]) {
      if (!laid.image.names.includes(name)) continue;
      gather(laid, points);
      laid.image.read();
      return laid.image.valueOf(name);
    }
    return undefined;
  }

  /** Writes the feedback images into one of the points. */
  putFeedback({ number, use }: Pick<ConnectionPoint, 'number' | 'use'>, into: Uint8Array): void {
    for (const { image, stretches } of this.feedbacks)
      for (const { point, from, at, bytes } of stretches)
        if (point.number === number && point.use === use)
          return into.set(image.bytes.subarray(from, from + Math.min(bytes, into.length - at)), at);
  }

  /** Shows values over what a point shows already, by the names of roles and fields. A hot path where any are. */
  over(
    { number, use }: Pick<ConnectionPoint, 'number' | 'use'>,
    into: Uint8Array,
    values: ReadonlyMap<string, number>,
  ): void {
    for (const { image, stretches } of this.feedbacks)
      for (const { point, from, at, bytes } of stretches) {
        if (point.number !== number || point.use !== use) continue;
        image.bytes.set(into.subarray(at, at + Math.min(bytes, image.bytes.length - from)), from);
        image.showNamed(values);
        return into.set(image.bytes.subarray(from, from + Math.min(bytes, into.length - at)), at);
      }
  }
}

/** A point that lies in its image from the first byte to the last. */
function laidPoint({ number, use, size, order, groups, fields }: ConnectionPoint): LaidImage {
  const image = new RoleImage({ size, order, groups, fields: fields ?? [] });
  return { image, stretches: [{ point: { number, use }, from: 0, at: 0, bytes: size }] };
}

const nonEmpty = <T>([first, ...more]: readonly T[], otherwise: T): [T, ...T[]] => [
  first ?? otherwise,
  ...more,
];

/** Takes the bytes of an image from the points that hold them. */
export function gather(
  { image: { bytes: into }, stretches }: LaidImage,
  points: readonly PointBytes[],
): void {
  for (const { point, from, at, bytes } of stretches) {
    const held = points.find((p) => p.number === point.number && p.use === point.use);
    // What is laid out past the end of its image is a finding of the checks, and nothing here.
    if (held && from < into.length)
      into.set(held.bytes.subarray(at, at + Math.min(bytes, into.length - from)), from);
  }
}

/** Puts the bytes of an image into the points that hold them. */
export function scatter(
  { image: { bytes: own }, stretches }: LaidImage,
  points: readonly PointBytes[],
): void {
  for (const { point, from, at, bytes } of stretches) {
    const held = points.find((p) => p.number === point.number && p.use === point.use);
    const room = held ? held.bytes.length - at : 0;
    if (room > 0) held!.bytes.set(own.subarray(from, from + Math.min(bytes, room)), at);
  }
}
