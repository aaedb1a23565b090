import ipaddr from 'ipaddr.js';
import type { Found } from '@fadenkreuz/core';
import { encapsulation as enip } from '@fadenkreuz/core/cip';
import pLimit from 'p-limit';
import { loopbackBroadcast } from '../addresses/bootpPorts.js';
import { benchAddress, ownBroadcasts, type Reach } from '../wire/reach.js';
import { askIdentities, type IdentityAnswer } from './identities.js';
import { askModbusIdentities, type ModbusIdentity } from './modbusIdentities.js';
import { neighbours } from './neighbours.js';
import { readNetworkSettings } from './networkSettings.js';
import { addressesOf } from './scanRange.js';

export interface ScanOptions {
  /** In terms of the plan: 192.168.40.0/24, 192.168.40.10-192.168.40.60, 192.168.1.1. */
  ranges: readonly string[];
  /** Where Modbus servers may listen. */
  modbusPorts: readonly number[];
  /** First number of the plan's addresses; loopback has lost it. */
  planned: string;
  reach: Reach;
}

export interface ScanState {
  running: boolean;
  /** Questions asked, of how many. */
  asked: number;
  toAsk: number;
  found: Found[];
}

/** A device that is asked for details, at a time. */
const detailsAtOnce = 8;

/**
 * Looks for devices: ListIdentity by broadcast and address by address, and Modbus identification; then asks each for its network
 * settings. Stand-ins lie in loopback and are asked always, real addresses where the agent may reach them. Ends by itself.
 */
export class Scan {
  private readonly found = new Map<string, Found>();
  private readonly details = pLimit(detailsAtOnce);
  private readonly asking: Promise<void>[] = [];
  private readonly ended = new AbortController();
  private readonly addresses: string[];
  private asked = 0;
  private running = true;

  /** Throws `scan.noRange`, `scan.tooWide`. */
  constructor(private readonly options: ScanOptions) {
    const planned = addressesOf(options.ranges);
    const real = planned.filter((address) => options.reach.holds(address));
    this.addresses = [...new Set([...planned.map(benchAddress), ...real])];
  }

  get state(): ScanState {
    return {
      running: this.running,
      asked: this.asked,
      toAsk: 2 * this.addresses.length,
      found: [...this.found.values()],
    };
  }

  stop(): void {
    this.ended.abort();
  }

  /** Resolves when all answers are in. */
  async run(): Promise<void> {
    const { addresses, options } = this;
    const { reach, modbusPorts } = options;
    const { signal } = this.ended;
    const onAsked = (count: number) => {
      this.asked += count;
    };
    try {
      await Promise.all([
        askIdentities({
          addresses,
          broadcasts: [loopbackBroadcast, ...ownBroadcasts(reach)],
          reach,
          signal,
          onAsked,
          onAnswer: (answer) => this.takeIdentity(answer),
        }),
        askModbusIdentities({
          addresses,
          ports: modbusPorts,
          reach,
          signal,
          onAsked,
          onAnswer: (answer) => this.takeModbus(answer),
        }),
      ]);
      await Promise.all(this.asking);
      await this.takeNeighbours();
    } finally {
      this.running = false;
    }
  }

  /** How the plan would write an address. */
  private plannedAddress(at: string): string {
    if (!at.startsWith('127.')) return at;
    return `${this.options.planned.split('.')[0]}.${at.split('.').slice(1).join('.')}`;
  }

  /** Of those who answered a broadcast only the ones that were meant: on one computer other benches may run. */
  private meant(at: string): boolean {
    return this.addresses.includes(at);
  }

  private takeIdentity(answer: IdentityAnswer): void {
    const { at, serialNumber } = answer;
    const key = `${at} ${serialNumber}`;
    if (this.found.has(key) || !this.meant(at)) return;
    const { vendor, deviceType, productCode, majorRevision, minorRevision, productName, status, state } =
      answer;
    const found: Found = {
      protocol: 'ethernet-ip',
      address: this.plannedAddress(at),
      at,
      port: enip.explicitPort,
      maker: null,
      vendor,
      deviceType,
      productCode,
      majorRevision,
      minorRevision,
      productName,
      serialNumber,
      status,
      state,
      ...unknownSettings,
    };
    this.found.set(key, found);
    this.asking.push(
      this.details(async () => {
        if (this.ended.signal.aborted) return;
        // A device that refuses this is found all the same.
        const settings = await readNetworkSettings({ address: at, reach: this.options.reach }).catch(
          () => unknownSettings,
        );
        this.found.set(key, { ...found, ...settings });
      }),
    );
  }

  private takeModbus({ at, port, maker, productCode, revision, productName }: ModbusIdentity): void {
    const [, major, minor] = /^v?(\d+)\.(\d+)/i.exec(revision) ?? [];
    this.found.set(`${at} ${port}`, {
      protocol: 'modbus-tcp',
      address: this.plannedAddress(at),
      at,
      port,
      maker: maker || null,
      vendor: null,
      deviceType: null,
      productCode: /^\d{1,5}$/.test(productCode) ? Number(productCode) : null,
      majorRevision: major === undefined ? null : Number(major),
      minorRevision: minor === undefined ? null : Number(minor),
      productName,
      serialNumber: null,
      status: null,
      state: null,
      ...unknownSettings,
    });
  }

  /** What this computer has seen on its own network, for those who did not say it themselves. */
  private async takeNeighbours(): Promise<void> {
    const seen = await neighbours();
    for (const [key, found] of this.found) {
      const mac = seen.get(found.at);
      if (found.mac === null && mac && ipaddr.IPv4.parse(found.at).range() !== 'loopback')
        this.found.set(key, { ...found, mac });
    }
  }
}

const unknownSettings = { mac: null, addressFrom: null, mask: null, gateway: null } as const;
