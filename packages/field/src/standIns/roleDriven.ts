import { imageStretches, type Link } from '@fadenkreuz/core';
import { RoleImage, type Behaviour, type DescriptionOf, type RoleBehaviour } from '@fadenkreuz/core/devices';
import type { SimulatedPoint } from '../protocols/driver.js';

/** The images of a link by their roles, and where their bytes stand in the points of the device. */
function laidOut(link: Link, description: DescriptionOf) {
  return {
    command: new RoleImage(link.command),
    feedback: new RoleImage(link.feedback),
    taken: imageStretches(link, 'command', description),
    shown: imageStretches(link, 'feedback', description),
  };
}

/** A device that acts as its kind does, by the roles of what is laid out for it. */
export class RoleDriven {
  private images: ReturnType<typeof laidOut>;

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
        const next = kind.step(state, { elapsedMs, commanded, values: this.images.command });
        const { feedback } = this.images;
        feedback.show(kind.shows(next, (role) => feedback.unit(role)));
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
    command.read();
  }
}
