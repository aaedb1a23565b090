import type { Behaviour, Stimulus } from '../devices/behaviour.js';
import { Commands, noDesign, type Around, type Design } from '../devices/byRoles/commands.js';
import type { RoleBehaviour, Turned } from '../devices/byRoles/roleBehaviour.js';
import { saysRoles, type DescriptionOf } from '../devices/description.js';
import type { DriveChange } from '../devices/driveFacts.js';
import type { DescribedParameters } from '../devices/plain/parameters.js';
import type { LinkBase } from '../protocols/link.js';
import { gather, LaidOut, scatter, type LaidImage, type PointBytes } from './laidOut.js';

/** What a device that acts has beside its layout. */
export interface Surroundings {
  /** What of the machine acts on it, by the names in devices/surroundings.ts. */
  met: (quantity: string) => number | undefined;
  parameters: DescribedParameters;
  /** Its outputs stay when the connection is lost or the controller idles. */
  holds: () => boolean;
  /** What it turns, and what its safety logic is; without one: its kind's own. */
  design?: () => Design;
}

/** A device that acts as its kind does, by the roles of what is laid out for it. */
export class RoleDriven {
  private laidOut: LaidOut;
  private active: LaidImage;
  private commands: Commands;
  /** Another layout, or another point, is commanded: what stands there is no news. */
  private anew = false;
  /** It has been switched on, and has not acted since. */
  private fresh = true;
  private readonly around: Around;

  constructor(
    private readonly kind: RoleBehaviour<unknown>,
    link: LinkBase,
    description: DescriptionOf,
    private readonly surroundings: Surroundings,
  ) {
    this.around = {
      met: surroundings.met,
      set: (role, number) => surroundings.parameters.set(role, number),
      shown: (role) => this.laidOut.feedbacks[0].image.numbers(role),
      holds: () => surroundings.holds(),
      design: () => surroundings.design?.() ?? noDesign,
    };
    this.laidOut = new LaidOut(link, description);
    [this.active] = this.laidOut.commands;
    this.commands = this.commandsOf(this.active);
  }

  /** Takes over another layout; the device stays in the state that it is in. */
  layOut(link: LinkBase, description: DescriptionOf): void {
    // What it says of itself does not change with the plan.
    if (saysRoles(description)) return;
    this.laidOut = new LaidOut(link, description);
    this.turnTo(this.laidOut.commands[0]);
  }

  /** Configuration data have come into the points: parameters that are for the same are set by them. */
  configured(points: readonly PointBytes[]): void {
    for (const laid of this.laidOut.settings) {
      gather(laid, points);
      laid.image.read();
      for (const role of laid.image.roles) {
        const value = laid.image.number(role);
        if (value !== undefined) this.surroundings.parameters.take(role, value);
      }
    }
  }

  /** Ramps that come over the network's own objects, ms, are those of the parameters where there are any. */
  private ramped(part: DriveChange): DriveChange {
    const { accelerationTime, decelerationTime, ...rest } = part;
    const { parameters } = this.surroundings;
    const own = (role: 'acceleration' | 'deceleration', ms: number | undefined) => {
      const unit = parameters.set(role)?.unit;
      const taken =
        ms !== undefined && unit !== undefined && parameters.take(role, unit === 'ms' ? ms : ms / 1000);
      return taken ? undefined : ms;
    };
    const [up, down] = [own('acceleration', accelerationTime), own('deceleration', decelerationTime)];
    return {
      ...rest,
      ...(up === undefined ? {} : { accelerationTime: up }),
      ...(down === undefined ? {} : { decelerationTime: down }),
    };
  }

  private turnTo(image: LaidImage): void {
    this.active = image;
    this.commands = this.commandsOf(image);
    this.anew = true;
  }

  private commandsOf({ image }: LaidImage): Commands {
    const settings = this.laidOut.settings.map((one) => one.image);
    return new Commands(image, this.around, settings);
  }

  /** Acts over these points. */
  behaviour(points: () => readonly PointBytes[]): Behaviour<unknown> {
    const { kind } = this;
    const { drive } = kind;
    return {
      start: () => {
        this.fresh = true;
        return kind.start();
      },
      step: (state, stimulus) => this.step(state, stimulus, points()),
      feedback: (into, point) => {
        into.fill(0);
        this.laidOut.putFeedback({ number: point, use: 'feedback' }, into);
      },
      ...(kind.moves ? { moves: (state) => kind.moves!(state, this.turned()) } : {}),
      faults: kind.faults,
      health: (state) => kind.health(state),
      ...(drive ? { drive: { ...drive, change: (s, part) => drive.change(s, this.ramped(part)) } } : {}),
      ...(kind.lights ? { lights: (state, network) => kind.lights!(state, network) } : {}),
    };
  }

  /** Whether the scale of what it measures turns the way round. */
  private turned(): Turned {
    const { image } = this.laidOut.feedbacks[0];
    const place = image.placeOf('position actual') ?? image.placeOf('speed actual');
    return { scale: place?.signal.scale?.factor.startsWith('-') ? -1 : 1 };
  }

  private step(state: unknown, told: Stimulus, points: readonly PointBytes[]): unknown {
    const { kind, laidOut } = this;
    if (told.owned && laidOut.commands.length > 1) {
      const commanded = laidOut.commandOf(told.point);
      if (commanded !== this.active) this.turnTo(commanded);
    }
    if (this.fresh && kind.presets)
      for (const laid of laidOut.settings) {
        kind.presets(laid.image, laidOut.feedbacks[0].image);
        scatter(laid, points);
      }
    this.fresh = false;
    gather(this.active, points);
    for (const laid of laidOut.settings) gather(laid, points);
    const commanded = told.owned && told.run;
    if (this.anew) this.commands.next(0, commanded, told.owned);
    this.anew = false;
    const next = kind.step(state, this.commands.next(told.elapsedMs, commanded, told.owned));
    for (const { image } of laidOut.feedbacks) {
      const shown = kind.shows(next, image);
      image.show(shown);
      if (image === laidOut.feedbacks[0].image)
        kind.places?.(next, image.bytes, this.around.design?.() ?? noDesign);
      if (image === laidOut.feedbacks[0].image) this.surroundings.parameters.show(shown);
    }
    return next;
  }
}
