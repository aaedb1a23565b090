import { measuredField, Problem, type Device, type Fault, type Identity } from '@fadenkreuz/core';
import {
  behaviours,
  moduleStatus,
  morning,
  networkStatus,
  portLight,
  type AssemblySpec,
  type Behaviour,
  type Indicator,
  type NetworkState,
  type Reached,
  type World,
} from '@fadenkreuz/core/behaviours';
import { encapsulation as enip } from '@fadenkreuz/core/cip';
import { modbusPort } from '@fadenkreuz/core/modbus';
import { AddressAsker } from '../addresses/addressAsker.js';
import { attended } from '../timing/attendedTime.js';
import { Target } from '../ethernetip/target.js';
import type { TargetAssembly } from '../ethernetip/targetDevice.js';
import { ModbusServer } from '../modbus/server.js';
import type { Schedule } from '../timing/schedule.js';
import { Cable } from '../wire/cable.js';
import { benchAddress } from '../wire/reach.js';
import { Addressing, macOf } from './addressing.js';
import { ownObjects } from './ownObjects.js';
import { RegisterMemory } from './registerMemory.js';
import { StruckFaults } from './struckFaults.js';

/** The machine around all stand-ins of a bench. */
export interface SharedWorld {
  now: World;
}

export interface StandInOptions {
  schedule: Schedule;
  world?: SharedWorld;
  /** Makes its disturbances repeatable. */
  seed?: number;
  /** Assemblies that differ from those of its kind, for a device that is not what was planned. */
  assemblies?: readonly AssemblySpec[];
}

/** Milliseconds between two steps of a behaviour: the cycle of a small device. */
const stepMs = 20;
/** How often the configuration is shown anew, ms. */
const settingsMs = 100;
/** How long a stand-in waits before it tries an address again that another one has, ms. */
const retryMs = 500;
/** Two devices at one address break each other's conversations off about this often, ms. */
const conflictMs = 1500;

/** A simulated device: a behaviour behind a real protocol on its own loopback address, with the faults that are struck at it. */
export class StandIn {
  /** Where it listens; another than the standard's where that may not be bound. */
  port: number;
  private readonly cable: Cable;
  private readonly addressing: Addressing;
  /** Undefined while it has no address, and always for a device of another protocol. */
  private target: Target | undefined;
  private asker: AddressAsker | undefined;
  /** Where it stands now; it moves to another address with its next start. */
  private standsAt: string | undefined;
  /** Moves happen one after the other. */
  private moving: Promise<void> = Promise.resolve();
  private closed = false;
  private readonly memory: RegisterMemory;
  private server: ModbusServer | undefined;
  private readonly behaviour: Behaviour<unknown>;
  private readonly world: SharedWorld;
  private readonly seed: number;
  private state: unknown;
  private assemblies: TargetAssembly[];
  /** What its behaviour writes: feedback, with what its kind says of it. */
  private shown: { assembly: TargetAssembly; spec: AssemblySpec }[];
  private offered: readonly AssemblySpec[];
  private readonly faults = new StruckFaults();
  private identity: Identity;
  private powered = true;
  private offUntil = 0;
  private conflictAt = 0;
  private commandedAt = -Infinity;
  private settingsAt = -Infinity;
  private stopSteps: (() => void) | undefined;

  /** Throws `standIn.none` for a device without a behaviour. */
  constructor(
    readonly device: Device,
    private readonly options: StandInOptions,
  ) {
    if (!device.standIn) throw new Problem('standIn.none', { device: device.name });
    this.behaviour = behaviours[device.standIn];
    this.identity = this.behaviour.identity;
    this.addressing = new Addressing(device.address, device.factoryAddress);
    this.world = options.world ?? { now: morning };
    this.seed = options.seed ?? seedOf(device.id);
    this.state = this.behaviour.start(this.seed);
    this.cable = new Cable(this.seed);
    this.offered = options.assemblies ?? this.behaviour.assemblies;
    this.assemblies = this.offered.map(withBytes);
    this.shown = this.feedbackShown();
    this.memory = new RegisterMemory({
      specs: () => this.offered,
      bytesOf: (instance) => this.assemblies.find((a) => a.instance === instance)!.bytes,
      identity: () => this.identity,
      maker: () => this.maker,
      onWrite: (spec) => this.written(spec),
    });
    this.port = this.cip ? enip.explicitPort : modbusPort;
  }

  /** Where it stands on the bench: the planned address, until it was moved; empty while it has none. */
  get address(): string {
    const { address } = this.addressing;
    return address === undefined ? '' : benchAddress(address);
  }

  private get cip(): boolean {
    return this.behaviour.reached.protocol === 'ethernet-ip';
  }

  /** What it offers at this moment; its own truth. */
  get specs(): readonly AssemblySpec[] {
    return this.offered;
  }

  get protocol(): 'ethernet-ip' | 'modbus-tcp' {
    return this.behaviour.reached.protocol;
  }

  /** What an observer at the machine would see; for tests and for the command line. */
  get seen(): unknown {
    return this.state;
  }

  /** Its lights. */
  get indicators(): Indicator[] {
    const network: NetworkState = {
      connections: 0,
      timedOut: false,
      conflict: false,
      linkUp: !this.cable.pulled,
      address: this.address,
      run: true,
      ...this.target?.network,
      powered: this.powered,
      majorRevision: this.identity.majorRevision,
      minorRevision: this.identity.minorRevision,
    };
    const health = this.behaviour.health(this.state);
    const module = (this.powered && this.behaviour.moduleLight?.(this.state, network)) || undefined;
    return [
      health === 'good' && module ? module : moduleStatus(health, network),
      // The network light of the standard belongs to EtherNet/IP.
      ...(this.cip ? [networkStatus(network)] : []),
      portLight(network),
      ...(this.behaviour.lights?.(this.state, network) ?? []),
    ];
  }

  /** As it would say it itself: one line of ASCII. */
  private get maker(): string {
    const { maker, identity } = this.device;
    return this.identity.vendor === identity.vendor && /^[\x20-\x7e]{1,60}$/.test(maker) ? maker : '';
  }

  get struck(): Fault[] {
    return this.faults.all;
  }

  /** Whether nothing that is sent to its planned address arrives while it acts: no cable, no power, or it stands elsewhere. */
  get cutOff(): boolean {
    return !this.closed && (this.cable.pulled || this.standsAt !== benchAddress(this.device.address));
  }

  /** Binds the protocol's ports and begins to act. Throws `standIn.cannotBind`. */
  async open(): Promise<void> {
    await this.appear();
    let last = performance.now();
    this.showFeedback(last);
    this.showSettings(last);
    const step = (now: number) => {
      this.step(now, now - last);
      last = now;
    };
    this.stopSteps = this.options.schedule.every(stepMs, step, { spread: true, patient: true });
  }

  async close(): Promise<void> {
    this.closed = true;
    this.stopSteps?.();
    this.cable.close();
    await this.moving;
    await this.disappear();
  }

  /** Stands up at its address, or begins to ask for one. Throws `standIn.cannotBind`. */
  private async appear(): Promise<void> {
    const { asks } = this.addressing;
    const { address } = this;
    this.standsAt = address;
    try {
      if (asks && address === '') await this.ask(asks);
      else if (this.behaviour.reached.protocol === 'ethernet-ip') {
        this.target = this.targetAt(address, this.behaviour.reached);
        this.troubleTarget();
        await this.target.open();
      } else await this.serveModbus();
    } catch (cause) {
      const { message, port = this.port } = cause as Error & { port?: number };
      const facts = { device: this.device.name, address, port, reason: message };
      await this.disappear();
      throw new Problem('standIn.cannotBind', facts, { cause });
    }
  }

  private async disappear(): Promise<void> {
    const { target, server, asker } = this;
    this.target = this.server = this.asker = undefined;
    this.standsAt = undefined;
    await Promise.all([target?.close(), server?.close(), asker?.close()]);
  }

  /** After a start: goes where its settings say. One that is in the way of another waits until the place is free. */
  private move(): void {
    this.moving = this.moving.then(async () => {
      if (this.closed || this.standsAt === this.address) return;
      await this.disappear();
      while (!this.closed)
        try {
          return await this.appear();
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          await new Promise((resolve) => setTimeout(resolve, retryMs));
        }
    });
  }

  private async ask(method: 'bootp' | 'dhcp'): Promise<void> {
    this.asker = new AddressAsker({
      method,
      mac: macOf(this.seed),
      seed: this.seed,
      cable: this.cable,
      onGiven: (given) => {
        this.addressing.give(given);
        this.move();
      },
    });
    await this.asker.open();
  }

  private targetAt(address: string, reached: Extract<Reached, { protocol: 'ethernet-ip' }>): Target {
    return new Target({
      address,
      schedule: this.options.schedule,
      cable: this.cable,
      device: {
        identity: () => this.identity,
        serialNumber: this.seed,
        mac: macOf(this.seed),
        network: () => this.addressing.facts,
        setNetwork: (part) => this.addressing.change(part),
        assemblies: () => this.assemblies,
        classes: ownObjects(this.behaviour, {
          get: () => this.state,
          set: (state) => (this.state = state),
        }),
        commandFormat: reached.commandFormat,
        feedbackFormat: reached.feedbackFormat,
        cyclic: reached.cyclic,
        fault: () => faultOf[this.behaviour.health(this.state)],
        configure: (data) => this.configure(data),
        reset: (type) => {
          // Type 1 of the Reset service: back to the settings of the factory (CIP Vol. 1, 5-2.3.1).
          if (type === 1) this.addressing.toFactory(null);
          this.restart();
        },
      },
    });
  }

  /** Makes something go wrong. Throws `fault.notHere` for a fault that this kind of device does not have. */
  strike(fault: Fault): void {
    if (fault.fault === 'device') {
      const own = this.behaviour.faults.find((f) => f.id === fault.id);
      if (!own) throw new Problem('fault.notHere', { fault: fault.id, device: this.device.name });
      this.state = own.strike(this.state);
    } else if (!this.cip && (fault.fault === 'stolen' || fault.fault === 'duplicate-address'))
      throw new Problem('fault.notHere', { fault: fault.fault, device: this.device.name });
    // A code or a count may have any value: what is measured shows that it cannot be right.
    const field = fault.fault === 'out-of-range' && !fault.field && measuredField(this.device)?.name;
    this.faults.strike(field ? { ...fault, field } : fault);
    this.applyFaults();
    if (fault.fault === 'power-cycled') this.powerOff(fault.offMs);
    if (fault.fault === 'factory-address' || fault.fault === 'asks-for-address') {
      // The one takes the other's place.
      this.faults.mend(fault.fault === 'factory-address' ? 'asks-for-address' : 'factory-address');
      if (fault.fault === 'factory-address') this.addressing.toFactory(fault.address);
      else this.addressing.askBy(fault.method);
      this.restart();
    }
    // What changes the device itself ends what was agreed with the old one.
    if (['wrong-device', 'stolen', 'assembly-resized', 'duplicate-address'].includes(fault.fault))
      this.target?.dropConnections();
    if (fault.fault === 'wrong-device' || fault.fault === 'assembly-resized') this.server?.endAll();
  }

  /** Takes a fault away; the device may still need its reset. */
  mend(key: string): void {
    const fault = this.faults.mend(key);
    if (!fault) return;
    if (fault.fault === 'device')
      this.state = this.behaviour.faults.find((f) => f.id === fault.id)!.mend(this.state);
    this.applyFaults();
    if (fault.fault === 'factory-address' || fault.fault === 'asks-for-address') {
      this.addressing.toPlanned();
      this.restart();
    }
    if (fault.fault === 'wrong-device' || fault.fault === 'assembly-resized') {
      this.target?.dropConnections();
      this.server?.endAll();
    }
  }

  /** Sets the wire, the target and the identity to what the faults that are struck ask for. */
  private applyFaults(): void {
    const { faults } = this;
    this.cable.set({ ...faults.cable, ...(this.powered ? {} : { pulled: true }) });
    this.identity = faults.identity(this.behaviour.identity);
    this.offered = faults.offered(this.options.assemblies ?? this.behaviour.assemblies);
    this.assemblies = this.assemblies.map((assembly) => {
      const { size } = this.offered.find((s) => s.instance === assembly.instance)!;
      return size === assembly.size ? assembly : { ...assembly, size, bytes: new Uint8Array(size) };
    });
    this.shown = this.feedbackShown();
    this.troubleTarget();
  }

  private troubleTarget(): void {
    if (this.target) this.target.trouble = this.faults.target;
  }

  private powerOff(offMs: number): void {
    this.powered = false;
    this.offUntil = performance.now() + offMs;
    this.applyFaults();
  }

  private restart(): void {
    this.state = this.behaviour.start(this.seed);
    // Whatever made it ill is still there.
    for (const fault of this.faults.all)
      if (fault.fault === 'device')
        this.state = this.behaviour.faults.find((f) => f.id === fault.id)!.strike(this.state);
    for (const { bytes } of this.assemblies) bytes.fill(0);
    this.commandedAt = -Infinity;
    this.target?.restart();
    this.server?.endAll();
    this.addressing.start();
    if (this.addressing.asPlanned)
      for (const key of ['factory-address', 'asks-for-address']) this.faults.mend(key);
    this.move();
  }

  private step(now: number, elapsedMs: number): void {
    if (!this.powered) {
      if (now < this.offUntil) return;
      this.powered = true;
      this.faults.mend('power-cycled');
      this.applyFaults();
      this.restart();
    }
    if (this.faults.has('duplicate-address') && now - this.conflictAt > conflictMs) {
      this.conflictAt = now;
      this.target?.disturbSessions();
      this.target?.dropConnections();
    }
    const { command, instance, run } = this.commanded(now);
    const { now: world } = this.world;
    this.state = this.behaviour.step(this.state, { elapsedMs, command, instance, run, world });
    const acts = this.behaviour.acts?.(this.state);
    if (acts) this.world.now = { ...this.world.now, ...acts };
    this.showFeedback(now);
    this.showSettings(now);
  }

  private commanded(now: number): { command: Uint8Array | undefined; instance: number; run: boolean } {
    const { reached } = this.behaviour;
    if (this.cip) {
      const { command, run = false } = this.target ?? {};
      return { command: command?.bytes, instance: command?.instance ?? 0, run };
    }
    const watchdogMs = reached.protocol === 'modbus-tcp' ? reached.watchdogMs : 0;
    const heard = attended(now) - this.commandedAt <= watchdogMs;
    const command = this.assemblies.find((a) => a.use === 'command');
    return { command: heard ? command?.bytes : undefined, instance: command?.instance ?? 0, run: true };
  }

  private feedbackShown() {
    return this.assemblies
      .filter(({ use }) => use === 'feedback')
      .map((assembly) => ({
        assembly,
        spec: this.behaviour.assemblies.find((a) => a.instance === assembly.instance)!,
      }));
  }

  private showFeedback(now: number): void {
    if (this.faults.has('frozen')) return;
    for (const { assembly, spec } of this.shown) {
      const { instance, bytes } = assembly;
      // A resized device shows as much of its feedback as fits.
      const whole = bytes.length >= spec.size ? bytes : new Uint8Array(spec.size);
      this.behaviour.feedback(this.state, whole, instance);
      this.faults.overrange(spec, whole);
      if (whole !== bytes) bytes.set(whole.subarray(0, bytes.length));
    }
    this.target?.changed(now);
  }

  /** Somebody may read the configuration at any time, but it seldom changes. */
  private showSettings(now: number): void {
    if (now - this.settingsAt < settingsMs) return;
    this.settingsAt = now;
    const settings = this.assemblies.find((a) => a.use === 'configuration');
    if (settings && settings.size > 0) this.behaviour.settings?.(this.state, settings.bytes);
  }

  private configure(data: Uint8Array): void {
    this.state = this.behaviour.configure(this.state, data);
    this.settingsAt = -Infinity;
  }

  /** A master has written registers of this assembly. */
  private written(spec: AssemblySpec): void {
    const { bytes } = this.assemblies.find((a) => a.instance === spec.instance)!;
    if (spec.use === 'configuration') this.configure(bytes);
    else this.commandedAt = attended();
  }

  /** The standard's port; where that may not be bound, the one 1000 higher (docs: said in the report of the bench). */
  private async serveModbus(): Promise<void> {
    const serve = async (port: number) => {
      const server = new ModbusServer({
        address: this.address,
        port,
        memoryOf: (unit) => (units.includes(unit) ? this.memory : undefined),
        cable: this.cable,
        slowMs: () => this.faults.slowMs,
        busy: () => this.faults.has('busy'),
      });
      await server.open();
      this.server = server;
      this.port = port;
    };
    await serve(modbusPort).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== 'EACCES') throw error;
      return serve(modbusPort + 1000);
    });
  }
}

/** The device itself answers to these (Modbus Messaging on TCP/IP Implementation Guide V1.0b, 4.4.2.5), and to 1 as many do. */
const units = [0, 1, 255];
const faultOf = { good: 'none', minor: 'minor', major: 'major' } as const;
const withBytes = ({ instance, use, size }: AssemblySpec): TargetAssembly => ({
  instance,
  use,
  size,
  bytes: new Uint8Array(size),
});

/** FNV-1a, 32 bits: the same device always has the same serial number and disturbances. */
function seedOf(text: string): number {
  let hash = 0x811c9dc5;
  for (const byte of new TextEncoder().encode(text)) hash = Math.imul(hash ^ byte, 0x01000193);
  return hash >>> 0;
}
