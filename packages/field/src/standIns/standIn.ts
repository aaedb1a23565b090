import {
  actingByRoles,
  measuredField,
  offerOf,
  Problem,
  protocolOf,
  type Device,
  type Fault,
  type Identity,
} from '@fadenkreuz/core';
import {
  ChosenValues,
  DescribedParameters,
  lightAt,
  lightsAt,
  lossBy,
  moduleStatus,
  networkStatus,
  plainBehaviour,
  portLight,
  type Behaviour,
  type ConnectionPoint,
  type Indicator,
  type NetworkState,
} from '@fadenkreuz/core/devices';
import { RoleDriven } from '@fadenkreuz/core/stand-ins';
import { AddressClient } from '../addresses/addressClient.js';
import { type Commanded, type Driver, type Served, type Simulated } from '../protocols/driver.js';
import { endText, portOf, type End } from '../protocols/ends.js';
import { driverOf } from '../protocols/list.js';
import type { Schedule } from '../timing/schedule.js';
import { Cable } from '../wire/cable.js';
import { Addressing, macOf } from '../addresses/addressing.js';
import { DeviceSide } from './deviceSide.js';
import type { MachineAround } from './machineAround.js';
import { MachinePart } from './machinePart.js';
import { InjectedFaults } from './injectedFaults.js';
import { Points } from './points.js';

export interface StandInOptions {
  schedule: Schedule;
  /** The machine around it; without one it acts as on a test bench. */
  machine?: MachineAround;
  /** Makes its disturbances repeatable. */
  seed?: number;
}

/** Milliseconds between two steps of a behaviour: the cycle of a small device. */
const stepMs = 20;
/** A halted computer halts the machine, too: no step counts for more than this, ms. */
const longestStepMs = 250;
/** How long a stand-in waits before it tries an address again that another one has, ms. */
const retryMs = 500;
/** Two devices at one address break each other's conversations off about this often, ms. */
const conflictMs = 1500;

/**
 * A simulated device: what its description offers, behind a real protocol at its bench address, acting as its kind
 * does; with the faults that are injected.
 */
export class StandIn {
  /** What the protocol talks to. */
  private readonly simulated: Simulated;
  private readonly driver: Driver;
  private readonly cable: Cable;
  private readonly addressing: Addressing;
  /** Undefined while it has no address. */
  private served: Served | undefined;
  private asker: AddressClient | undefined;
  /** Where it stands now; it moves to another address with its next start. */
  private standsAt: string | undefined;
  /** Moves happen one after the other. */
  private moving: Promise<void> = Promise.resolve();
  private closed = false;
  private readonly behaviour: Behaviour<unknown>;
  private readonly part: MachinePart;
  private readonly seed: number;
  /** What is planned of its mechanics and its safety logic now. */
  private design: Pick<Device, 'train' | 'safety' | 'links'>;
  private state: unknown;
  private readonly points: Points;
  private readonly parameters: DescribedParameters;
  private readonly chosen: ChosenValues;
  /** What a person has it show. */
  readonly side: DeviceSide;
  /** How it acts by the roles of its fields; undefined for what has none. */
  private readonly acts: RoleDriven | undefined;
  private outputs: Outputs = { state: 'none', since: Date.now() };
  private readonly faults = new InjectedFaults();
  private readonly ownIdentity: Identity;
  private identity: Identity;
  private powered = true;
  private offUntil = 0;
  private conflictAt = 0;
  private stopSteps: (() => void) | undefined;

  /** Throws `standIn.none` for a device whose protocol nobody speaks here. */
  constructor(
    readonly device: Device,
    private readonly options: StandInOptions,
  ) {
    const { description } = device;
    this.design = device;
    const offer = offerOf(device);
    const driver = offer && driverOf(offer.protocol);
    if (!driver) throw new Problem('standIn.none', { device: device.name });
    this.driver = driver;
    this.identity = this.ownIdentity = description.identity ?? device.identity;
    this.parameters = new DescribedParameters(description.parameters, description.ports);
    this.chosen = new ChosenValues(description.chosen, this.parameters.all);
    this.parameters.onRestart = () => this.restart();
    const kind = actingByRoles(device);
    const { parameters } = this;
    const met = (quantity: string) => this.part.met(quantity);
    const holds = () => this.onLoss === 'hold';
    const surroundings = { met, parameters, holds, design: () => this.design };
    this.acts = kind && new RoleDriven(kind, device.links[0]!, description, surroundings);
    this.behaviour = this.acts?.behaviour(() => this.points.all()) ?? plainBehaviour;
    this.addressing = new Addressing(device.address, device.factoryAddress);
    this.part = new MachinePart(device, options.machine, () => this.points.all());
    this.seed = options.seed ?? seedOf(device.id);
    this.state = this.behaviour.start();
    this.cable = new Cable(this.seed);
    this.points = new Points(this.behaviour, description.points);
    this.simulated = this.simulation();
    this.side = new DeviceSide(device.links[0]!, description, Math.random);
  }

  private simulation(): Simulated {
    const { behaviour, device } = this;
    const { drive } = behaviour;
    return {
      schedule: this.options.schedule,
      cable: this.cable,
      description: { ...device.description, offer: offerOf(device) },
      identity: () => this.identity,
      maker: () => this.maker,
      serialNumber: this.seed,
      mac: macOf(this.seed),
      addressing: this.addressing,
      points: this.points.all,
      described: this.parameters.all,
      drive: drive && {
        facts: () => drive.facts(this.state),
        change: (part) => void (this.state = drive.change(this.state, part)),
      },
      health: () => behaviour.health(this.state),
      trouble: () => this.faults.trouble,
      configure: (data) => {
        const settings = this.points.of('configuration');
        if (settings?.size !== data.length) return;
        settings.bytes.set(data);
        this.acts?.configured(this.points.all());
      },
      reset: (toFactory) => {
        if (toFactory) {
          this.addressing.toFactory(null);
          this.parameters.restore();
        }
        this.restart();
      },
    };
  }

  /** Takes over another layout of its link, while it runs. */
  layOut(device: Device): void {
    const [link] = device.links;
    if (!link) return;
    this.design = device;
    this.side.layOut(link, device.description, performance.now());
    this.part.layOut(device);
    this.acts?.layOut(link, device.description);
  }

  /** Where it stands on the bench: the planned place, until it was moved; undefined while it has no address. */
  private get place(): End | undefined {
    const { address } = this.addressing;
    return address === undefined ? undefined : this.driver.benchEnd(this.device, address);
  }

  /** Where it really listens: the port may be another than the standard's. */
  get end(): End {
    return this.served?.end ?? this.place ?? this.driver.benchEnd(this.device, this.device.address);
  }

  /** That place in words; empty while it has no address. */
  get address(): string {
    return this.place ? endText(this.place) : '';
  }

  get port(): number | null {
    return portOf(this.end);
  }

  /** What it offers at this moment; its own truth. */
  get offered(): readonly ConnectionPoint[] {
    return this.faults.offered(this.device.description.points);
  }

  get protocol(): string {
    return this.driver.protocol;
  }

  /** What an observer at the machine would see; for tests and for the command line. */
  get seen(): unknown {
    return this.state;
  }

  /** What is done to it by hand, by quantity. */
  get met(): Record<string, number> {
    return this.part.held;
  }
  /** Does something to it, as the machine around it would; null lets it go. Throws `edit.unknown`. */
  meet(quantity: string, value: number | null): void {
    this.part.hold(quantity, value);
  }

  /** How fast what it drives goes, as somebody sees it who stands there; null for what moves nothing. */
  get moves(): number | null {
    const speed = this.behaviour.moves?.(this.state);
    return speed === undefined ? null : Number(speed.toPrecision(4));
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
      ...this.served?.network,
      powered: this.powered,
      majorRevision: this.identity.majorRevision,
      minorRevision: this.identity.minorRevision,
    };
    const health = this.behaviour.health(this.state);
    const own = this.behaviour.lights?.(this.state, network) ?? [];
    const lights = lightsAt(this.device.description.lights, this.identity);
    const idles = network.connections > 0 && !network.run ? 'idle' : undefined;
    const state = this.parameters.unlocked ? 'unlocked' : idles;
    return [
      lightAt(moduleStatus(health, network), health === 'good' && this.powered ? state : undefined, lights),
      ...(this.driver.networkLight ? [networkStatus(network)] : []),
      portLight(network),
      ...own.map(({ when, ...light }) => lightAt(light, when, lights)),
    ];
  }

  /** As it would say it itself: one line of ASCII. */
  private get maker(): string {
    const { maker, identity } = this.device;
    return this.identity.vendor === identity.vendor && /^[\x20-\x7e]{1,60}$/.test(maker) ? maker : '';
  }

  get injected(): Fault[] {
    return this.faults.all;
  }

  /**
   * Whether nothing that is sent to its planned address arrives while it acts: no cable, no power, or it stands
   * elsewhere.
   */
  get cutOff(): boolean {
    const planned = endText(this.driver.benchEnd(this.device, this.device.address));
    return !this.closed && (this.cable.pulled || this.standsAt !== planned);
  }

  /** Binds the protocol's ports and begins to act. Throws `standIn.cannotBind`. */
  async open(): Promise<void> {
    await this.appear();
    let last = performance.now();
    this.showFeedback(last);
    const step = (now: number) => {
      this.step(now, Math.min(now - last, longestStepMs));
      last = now;
    };
    this.stopSteps = this.options.schedule.every(stepMs, step, { spread: true, patient: true });
    this.part.join();
  }

  async close(): Promise<void> {
    this.closed = true;
    this.part.leave();
    this.stopSteps?.();
    this.cable.close();
    await this.moving;
    await this.disappear();
  }

  /** Stands up at its address, or begins to ask for one. Throws `standIn.cannotBind`. */
  private async appear(): Promise<void> {
    const { asks } = this.addressing;
    const { place, address } = this;
    this.standsAt = address;
    try {
      if (place) this.served = await this.driver.serve(this.simulated, place);
      else if (asks) await this.ask(asks);
    } catch (cause) {
      const { message, port = portOf(place ?? this.end) ?? 0 } = cause as Error & { port?: number };
      const facts = { device: this.device.name, address, port, reason: message };
      await this.disappear();
      throw new Problem('standIn.cannotBind', facts, { cause });
    }
  }

  private async disappear(): Promise<void> {
    const { served, asker } = this;
    this.served = this.asker = undefined;
    this.standsAt = undefined;
    await Promise.all([served?.close(), asker?.close()]);
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
    this.asker = new AddressClient({
      method,
      mac: macOf(this.seed),
      vendorClass: this.device.identity.productName,
      seed: this.seed,
      cable: this.cable,
      onGiven: (given) => {
        this.addressing.give(given);
        this.move();
      },
    });
    await this.asker.open();
  }

  /** Makes something go wrong. Throws `fault.notHere` for a fault that this device cannot have. */
  inject(fault: Fault): void {
    if (fault.fault === 'device') {
      const own = this.behaviour.faults.find((f) => f.id === fault.id);
      if (!own) throw new Problem('fault.notHere', { fault: fault.id, device: this.device.name });
      this.state = own.inject(this.state);
    } else if (!this.canHave(fault))
      throw new Problem('fault.notHere', { fault: fault.fault, device: this.device.name });
    // A code or a count may have any value: what is measured shows that it cannot be right.
    const field = fault.fault === 'out-of-range' && !fault.field && measuredField(this.device)?.name;
    this.faults.inject(field ? { ...fault, field } : fault);
    this.applyFaults();
    if (fault.fault === 'power-cycled') this.powerOff(fault.offMs);
    if (fault.fault === 'factory-address' || fault.fault === 'asks-for-address') {
      // The one takes the other's place.
      this.faults.clear(fault.fault === 'factory-address' ? 'asks-for-address' : 'factory-address');
      if (fault.fault === 'factory-address') this.addressing.toFactory(fault.address);
      else this.addressing.askBy(fault.method);
      this.restart();
    }
    if (makesAnother.has(fault.fault)) this.served?.drop('changed');
  }

  /** Takes a fault away, by its key; the device may still need its reset. */
  clear(key: string): void {
    const fault = this.faults.clear(key);
    if (!fault) return;
    if (fault.fault === 'device')
      this.state = this.behaviour.faults.find((f) => f.id === fault.id)!.clear(this.state);
    this.applyFaults();
    if (fault.fault === 'factory-address' || fault.fault === 'asks-for-address') {
      this.addressing.toPlanned();
      this.restart();
    }
    if (fault.fault === 'wrong-device' || fault.fault === 'assembly-resized') this.served?.drop('changed');
  }

  private canHave({ fault }: Fault): boolean {
    const offer = offerOf(this.device);
    return (
      offer !== null &&
      protocolOf(offer)
        .faults(offer)
        .some((f) => f.fault === fault)
    );
  }

  /** Sets the wire, the server and the identity to what the injected faults ask for. */
  private applyFaults(): void {
    const { faults } = this;
    this.cable.set({ ...faults.cable, ...(this.powered ? {} : { pulled: true }) });
    this.identity = faults.identity(this.ownIdentity);
    this.points.offer(this.offered);
    this.served?.troubled();
  }

  private powerOff(offMs: number): void {
    this.powered = false;
    this.offUntil = performance.now() + offMs;
    this.applyFaults();
  }

  private restart(): void {
    this.parameters.powerOn();
    this.state = this.behaviour.start();
    // Whatever made it ill is still there.
    for (const fault of this.faults.all)
      if (fault.fault === 'device')
        this.state = this.behaviour.faults.find((f) => f.id === fault.id)!.inject(this.state);
    this.points.clear();
    this.served?.drop('restarted');
    this.addressing.start();
    if (this.addressing.asPlanned)
      for (const key of ['factory-address', 'asks-for-address']) this.faults.clear(key);
    this.move();
  }

  private step(now: number, elapsedMs: number): void {
    if (!this.powered) {
      if (now < this.offUntil) return;
      this.powered = true;
      this.faults.clear('power-cycled');
      this.applyFaults();
      this.restart();
    }
    if (this.faults.has('duplicate-address') && now - this.conflictAt > conflictMs) {
      this.conflictAt = now;
      this.served?.drop('disturbed');
    }
    const { bytes, point, run } = this.served?.command(now) ?? nothing;
    this.noteOutputs(bytes !== undefined);
    if (bytes && run) this.chosen.take(point, bytes);
    this.side.move(now);
    this.state = this.behaviour.step(this.state, { elapsedMs, owned: bytes !== undefined, point, run });
    this.showFeedback(now);
  }

  private showFeedback(now: number): void {
    if (this.faults.has('frozen')) return;
    this.points.show(this.overrange);
    this.served?.changed(now);
  }

  private readonly overrange = (described: ConnectionPoint, into: Uint8Array) => {
    this.chosen.show(described, into);
    this.part.over(described, into);
    this.side.over(described, into);
    this.faults.overrange(described, into);
  };

  /** What its outputs are, and the command bytes as it has them. */
  get commanded(): Outputs & { bytes: Uint8Array } {
    return { ...this.outputs, bytes: this.points.of('command')?.bytes ?? new Uint8Array() };
  }

  /** Whose outputs are lost keeps or drops them, as its description says. */
  private noteOutputs(owned: boolean): void {
    const before = this.outputs.state;
    if (owned === (before === 'commanded')) return;
    const lost = this.onLoss === 'hold' ? 'held' : 'dropped';
    this.outputs = { state: owned ? 'commanded' : lost, since: Date.now() };
    if (!owned && lost === 'dropped')
      for (const point of this.points.all()) if (point.use === 'command') point.bytes.fill(0);
  }

  /** What its outputs do without a controller, by its description and the configuration data that it has. */
  private get onLoss(): 'drop' | 'hold' | undefined {
    const settings = this.points.of('configuration')?.bytes ?? new Uint8Array();
    return lossBy(this.device.description.loss, settings);
  }
}

/** What the outputs of a device are: nobody ever commanded them, somebody does, or loss left them kept or dropped. */
export interface Outputs {
  state: 'none' | 'commanded' | 'held' | 'dropped';
  /** ms since 1970. */
  since: number;
}

/** What a device is told while nobody commands it. */
const nothing: Omit<Commanded, 'bytes'> & { bytes: undefined } = { point: 0, bytes: undefined, run: false };

/** Faults that change the device itself end what was agreed with the old one. */
const makesAnother = new Set<Fault['fault']>([
  'wrong-device',
  'stolen',
  'assembly-resized',
  'duplicate-address',
]);

/** FNV-1a, 32 bits: the same device always has the same serial number and disturbances. */
function seedOf(text: string): number {
  let hash = 0x811c9dc5;
  for (const byte of new TextEncoder().encode(text)) hash = Math.imul(hash ^ byte, 0x01000193);
  return hash >>> 0;
}
