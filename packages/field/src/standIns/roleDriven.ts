import { imageStretches, type Link } from '@fadenkreuz/core';
import {
  Commands,
  RoleImage,
  type Behaviour,
  type DescriptionOf,
  type RoleBehaviour,
} from '@fadenkreuz/core/devices';
import type { SimulatedPoint } from '../protocols/driver.js';

/** The images of a link by their roles, and where their bytes stand in the points of the device. */
function laidOut(link: Link, description: DescriptionOf) {
  const command = new RoleImage(link.command);
  return {
    command,
    commands: new Commands(command, () => undefined),
    feedback: new RoleImage(link.feedback),
    taken: imageStretches(link, 'command', description),
    shown: imageStretches(link, 'feedback', description),
  };
}

/** A device that acts as its kind does, by the roles of what is laid out for it. */
export class RoleDriven {
  private images: ReturnType<typeof laidOut>;
  private laidOutAnew = false;

  constructor(
    private readonly kind: RoleBehaviour<unknown>,
    link: Link,
    description: DescriptionOf,
  ) {
    this.images = laidOut(link, description);
  }

  /** Takes over another layout; the device stays in the state that it is in. */
  layOut(link: Link, description: DescriptionOf): void {
    this.images = laidOut(link, description);
    this.laidOutAnew = true;
  }

  /** The behaviour of what is only described, acting: bytes come from and go to its points. */
  behaviour(
    plain: Pick<Behaviour<null>, 'identity' | 'offer' | 'assemblies'>,
    points: () => readonly SimulatedPoint[],
  ): Behaviour<unknown> {
    const { kind } = this;
    const { identity, offer, assemblies } = plain;
    return {
      ...{ identity, offer, assemblies },
      title: kind.title,
      start: () => kind.start(),
      configure: (state) => state,
      step: (state, { elapsedMs, command, run }) => {
        this.take(points());
        const commanded = command !== undefined && run;
        // What stood there before another layout is no news.
        if (this.laidOutAnew) this.images.commands.next(0, commanded);
        this.laidOutAnew = false;
        const { feedback, commands } = this.images;
        const next = kind.step(state, commands.next(elapsedMs, commanded));
        feedback.show(kind.shows(next, feedback));
        return next;
      },
      feedback: (_state, into, number) => {
        into.fill(0);
        const { feedback, shown } = this.images;
        for (const { point, from, at, bytes } of shown)
          if (point.number === number && point.use === 'feedback')
            into.set(feedback.bytes.subarray(from, from + Math.min(bytes, into.length - at)), at);
      },
      faults: kind.faults,
      health: (state) => kind.health(state),
    };
  }

  /** Takes the command from the points that hold it. */
  private take(points: readonly SimulatedPoint[]): void {
    const { command, taken } = this.images;
    for (const { point, from, at, bytes } of taken) {
      const held = points.find((p) => p.number === point.number && p.use === point.use);
      if (held)
        command.bytes.set(held.bytes.subarray(at, at + Math.min(bytes, command.bytes.length - from)), from);
    }
  }
}
