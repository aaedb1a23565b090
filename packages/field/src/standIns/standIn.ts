import { behaviours, type AssemblySpec } from '@fadenkreuz/core/behaviours';
import { Problem, type Device } from '@fadenkreuz/core';
import { encapsulation as enip } from '@fadenkreuz/core/cip';
import { Target } from '../ethernetip/target.js';
import { benchAddress } from '../loopback.js';
import type { Schedule } from '../schedule.js';

export interface StandInOptions {
  schedule: Schedule;
  /** Makes its disturbances repeatable. */
  seed?: number;
  /** Assemblies that differ from those of its kind, for a device that is not what was planned. */
  assemblies?: readonly AssemblySpec[];
}

/** Milliseconds between two steps of a behaviour. */
const stepMs = 10;

/** A simulated device: a behaviour behind a real EtherNet/IP target on its own loopback address. */
export class StandIn {
  readonly address: string;
  private readonly target: Target;
  private readonly behaviour;
  private state: unknown;
  private readonly feedback: Uint8Array;
  private stopSteps: (() => void) | undefined;

  /** Throws `standIn.none` for a device without a behaviour. */
  constructor(
    readonly device: Device,
    private readonly options: StandInOptions,
  ) {
    if (!device.standIn) throw new Problem('standIn.none', { device: device.name });
    this.behaviour = behaviours[device.standIn];
    this.address = benchAddress(device.address);
    const seed = options.seed ?? seedOf(device.id);
    this.state = this.behaviour.start(seed);
    this.target = new Target({
      address: this.address,
      identity: this.behaviour.identity,
      serialNumber: seed,
      assemblies: this.assemblies,
      schedule: options.schedule,
      onConfiguration: (data) => (this.state = this.behaviour.configure(this.state, data)),
    });
    const { instance } = this.assemblies.find((a) => a.use === 'feedback')!;
    this.feedback = this.target.assemblies.get(instance)!;
  }

  get assemblies(): readonly AssemblySpec[] {
    return this.options.assemblies ?? this.behaviour.assemblies;
  }

  /** What an observer at the machine would see; for tests and for the command line. */
  get world(): unknown {
    return this.state;
  }

  /** Binds the protocol's ports and begins to act. Throws `standIn.cannotBind`. */
  async open(): Promise<void> {
    try {
      await this.target.open();
    } catch (cause) {
      const port = (cause as { port?: number }).port ?? enip.explicitPort;
      const facts = {
        device: this.device.name,
        address: this.address,
        port,
        reason: (cause as Error).message,
      };
      await this.target.close();
      throw new Problem('standIn.cannotBind', facts, { cause });
    }
    let last = performance.now();
    this.behaviourFeedback();
    this.stopSteps = this.options.schedule.every(stepMs, (now) => {
      const { command, run } = this.target;
      this.state = this.behaviour.step(this.state, { elapsedMs: now - last, command, run });
      last = now;
      this.behaviourFeedback();
    });
  }

  async close(): Promise<void> {
    this.stopSteps?.();
    await this.target.close();
  }

  private behaviourFeedback(): void {
    const own = this.behaviour.assemblies.find((a) => a.use === 'feedback')!.size;
    // A resized device shows as much of its feedback as fits.
    if (own <= this.feedback.length) this.behaviour.feedback(this.state, this.feedback);
  }
}

/** FNV-1a, 32 bits: the same device always has the same serial number and disturbances. */
function seedOf(text: string): number {
  let hash = 0x811c9dc5;
  for (const byte of new TextEncoder().encode(text)) hash = Math.imul(hash ^ byte, 0x01000193);
  return hash >>> 0;
}
