import { imageStretches, type Link } from '@fadenkreuz/core';
import { RoleImage, type ConnectionPoint, type DescriptionOf } from '@fadenkreuz/core/devices';
import type { SimulatedPoint } from '../protocols/driver.js';

type Stretches = ReturnType<typeof imageStretches>;

/** The images of a link by roles and fields, and where their bytes stand in the points of its device. */
export class LaidOut {
  readonly command: RoleImage;
  readonly feedback: RoleImage;
  private readonly taken: Stretches;
  private readonly shown: Stretches;

  constructor(link: Link, description: DescriptionOf) {
    this.command = new RoleImage(link.command);
    this.feedback = new RoleImage(link.feedback);
    this.taken = imageStretches(link, 'command', description);
    this.shown = imageStretches(link, 'feedback', description);
  }

  /** Takes the command from the points that hold it. */
  takeCommand(points: readonly SimulatedPoint[]): void {
    gather(this.taken, points, this.command);
  }

  /** The value of a role or a field as the points hold it: as it is shown, else as it is commanded. */
  valueOf(name: string, points: readonly SimulatedPoint[]): number | undefined {
    for (const [image, stretches] of [
      [this.feedback, this.shown],
      [this.command, this.taken],
    ] as const) {
      if (!image.names.includes(name)) continue;
      gather(stretches, points, image);
      image.read();
      return image.valueOf(name);
    }
    return undefined;
  }

  /** Writes the feedback image into one of the points. */
  putFeedback({ number, use }: Pick<ConnectionPoint, 'number' | 'use'>, into: Uint8Array): void {
    for (const { point, from, at, bytes } of this.shown)
      if (point.number === number && point.use === use)
        into.set(this.feedback.bytes.subarray(from, from + Math.min(bytes, into.length - at)), at);
  }

  /** Shows values over what a point shows already, by the names of roles and fields. A hot path where any are. */
  over(
    point: Pick<ConnectionPoint, 'number' | 'use'>,
    into: Uint8Array,
    values: ReadonlyMap<string, number>,
  ): void {
    for (const { point: own, from, at, bytes } of this.shown)
      if (own.number === point.number && own.use === point.use)
        this.feedback.bytes.set(into.subarray(at, Math.min(at + bytes, into.length)), from);
    this.feedback.showNamed(values);
    this.putFeedback(point, into);
  }
}

function gather(stretches: Stretches, points: readonly SimulatedPoint[], { bytes: into }: RoleImage): void {
  for (const { point, from, at, bytes } of stretches) {
    const held = points.find((p) => p.number === point.number && p.use === point.use);
    if (held) into.set(held.bytes.subarray(at, at + Math.min(bytes, into.length - from)), from);
  }
}
