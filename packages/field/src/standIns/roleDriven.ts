import type { Link } from '@fadenkreuz/core';
import { Commands, type Behaviour, type DescriptionOf, type RoleBehaviour } from '@fadenkreuz/core/devices';
import type { SimulatedPoint } from '../protocols/driver.js';
import { LaidOut } from './laidOut.js';

/** A device that acts as its kind does, by the roles of what is laid out for it. */
export class RoleDriven {
  private laidOut: LaidOut;
  private commands: Commands;
  private laidOutAnew = false;

  constructor(
    private readonly kind: RoleBehaviour<unknown>,
    link: Link,
    description: DescriptionOf,
    private readonly met: (quantity: string) => number | undefined,
  ) {
    this.laidOut = new LaidOut(link, description);
    this.commands = new Commands(this.laidOut.command, met);
  }

  /** Takes over another layout; the device stays in the state that it is in. */
  layOut(link: Link, description: DescriptionOf): void {
    this.laidOut = new LaidOut(link, description);
    this.commands = new Commands(this.laidOut.command, this.met);
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
        const { feedback } = this.laidOut;
        this.laidOut.takeCommand(points());
        const commanded = command !== undefined && run;
        // What stood there before another layout is no news.
        if (this.laidOutAnew) this.commands.next(0, commanded);
        this.laidOutAnew = false;
        const next = kind.step(state, this.commands.next(elapsedMs, commanded));
        feedback.show(kind.shows(next, feedback));
        return next;
      },
      feedback: (_state, into, number) => {
        into.fill(0);
        this.laidOut.putFeedback({ number, use: 'feedback' }, into);
      },
      faults: kind.faults,
      health: (state) => kind.health(state),
    };
  }
}
