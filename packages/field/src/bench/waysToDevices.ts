import { randomUUID } from 'node:crypto';
import {
  finding,
  offerOf,
  Problem,
  type Cell,
  type Device,
  type Finding,
  type Link,
  type Parameter,
} from '@fadenkreuz/core';
import type { Answered, Driver, Originator } from '../protocols/driver.js';
import type { LinkEnds } from '../protocols/ends.js';
import { driverOf } from '../protocols/list.js';
import type { ParameterAccess } from '../protocols/parameterAccess.js';
import type { StandIn } from '../standIns/standIn.js';
import { ownAddressBeside, type Reach } from '../wire/reach.js';

/** How long a device may take to say what it is, ms. */
const identityMs = 2000;

/** Who speaks with a device, and where. */
export interface Way {
  device: Device;
  driver: Driver;
  originator: Originator;
  ends: LinkEnds;
}

/** What a bench lends it. */
export interface WaysOptions {
  designed: () => Cell;
  originators: ReadonlyMap<string, Originator>;
  standIns: ReadonlyMap<string, StandIn>;
  /** Why a device is not reached, by its id. */
  troubles: Map<string, Finding>;
  localAddress: string;
  reach: Reach;
}

/** Where the devices of a cell are reached: stand-ins on the bench, or real ones where that was allowed. */
export class WaysToDevices {
  constructor(private readonly bench: WaysOptions) {}

  /**
   * Whether a device is played on the bench: one of which this was said always is, any other where no real one may
   * be reached at its address.
   */
  isSimulated({ simulated, address }: Device): boolean {
    return simulated || !this.bench.reach.holds(address);
  }

  /** Whether the bench speaks the protocol that a device offers. */
  isSpoken(device: Device): boolean {
    const offer = offerOf(device);
    return offer !== null && driverOf(offer.protocol) !== undefined;
  }

  /** How a link goes; undefined where nobody speaks its protocol, or no adapter leads there. */
  async wayOf(device: Device, link: Link): Promise<Way | undefined> {
    const driver = driverOf(link.protocol);
    const originator = this.bench.originators.get(link.protocol);
    const ends = driver && originator && (await this.endsOf(device, link, driver, originator));
    return ends && { device, driver, originator, ends };
  }

  private async endsOf(
    device: Device,
    link: Link,
    driver: Driver,
    originator: Originator,
  ): Promise<LinkEnds | undefined> {
    const { localAddress, standIns, troubles } = this.bench;
    const standIn = standIns.get(device.id);
    const planned = driver.benchEnd(device, device.address);
    if (standIn) {
      // A port that could not be bound is replaced by the stand-in's own.
      const port = standIn.protocol === link.protocol ? standIn.port : undefined;
      const end = planned.on === 'ip' && port ? { ...planned, port } : planned;
      return { device, link, end, localAddress, cut: () => standIn.cutOff };
    }
    if (this.isSimulated(device)) return { device, link, end: planned, localAddress };
    const end = driver.realEnd(device);
    const { address } = device;
    const own = address.startsWith('127.') ? localAddress : ownAddressBeside(address);
    if (!own) {
      const facts = { device: device.name, address };
      troubles.set(device.id, finding('link.noAdapter', 'error', { device: device.id }, facts));
      return undefined;
    }
    await originator.open(own);
    return { device, link, end, localAddress: own, real: true };
  }

  /** The way to the parameters of a device: over its first link that has one. */
  async parametersOf({ id }: Device): Promise<ParameterAccess> {
    const { originator, ends } = await this.wayTo(id);
    return originator.parameters(ends);
  }

  /** Who speaks with a device, and where. Throws `edit.unknown`, `bench.noOpenLink`. */
  private async wayTo(deviceId: string): Promise<Way> {
    const device = this.bench.designed().devices.find((d) => d.id === deviceId);
    if (!device) throw new Problem('edit.unknown', { what: 'device', id: deviceId });
    for (const link of device.links) {
      const way = await this.wayOf(device, link);
      if (way) return way;
    }
    throw new Problem('bench.noOpenLink', { device: device.name });
  }

  /**
   * The parameters that a device itself tells of; empty where it has no list of them. Throws `edit.unknown`,
   * `bench.noOpenLink`, `parameter.noList`.
   */
  async parametersListedBy(deviceId: string): Promise<Parameter[]> {
    const { device, originator, ends } = await this.wayTo(deviceId);
    if (!originator.listed) throw new Problem('parameter.noList', { device: device.name });
    return originator.listed(ends, () => randomUUID());
  }

  /**
   * What the device at a planned place says of itself; undefined where its protocol has no such question, or it does
   * not answer. Throws `edit.unknown`, `bench.noOpenLink`.
   */
  async identityOf(deviceId: string): Promise<Answered['found'] | undefined> {
    const { driver, ends } = await this.wayTo(deviceId);
    if (ends.end.on !== 'ip' || !driver.scan || ends.cut?.()) return undefined;
    const { address, port } = ends.end;
    const range = { addresses: [address], ports: port === undefined ? [] : [port], reach: this.bench.reach };
    const until = AbortSignal.timeout(identityMs);
    for await (const { found } of driver.scan({ ...range, signal: until, onAsked: () => undefined }))
      return found;
    return undefined;
  }
}
