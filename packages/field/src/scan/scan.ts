import ipaddr from 'ipaddr.js';
import type { Found } from '@fadenkreuz/core';
import { drivers } from '../protocols/list.js';
import { benchAddress, type Reach } from '../wire/reach.js';
import { neighbours } from './neighbours.js';
import { addressesOf } from './scanRange.js';

export interface ScanOptions {
  /** In terms of the plan: 192.168.40.0/24, 192.168.40.10-192.168.40.60, 192.168.1.1. */
  ranges: readonly string[];
  /** Other ports than the standard's where devices may listen. */
  ports: readonly number[];
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

/**
 * Looks for devices over every protocol that can. Stand-ins lie in loopback and are asked always, real addresses where
 * the agent may reach them. Ends by itself.
 */
export class Scan {
  private readonly found = new Map<string, Found>();
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
      toAsk: drivers.filter((d) => d.scan).length * this.addresses.length,
      found: [...this.found.values()],
    };
  }

  stop(): void {
    this.ended.abort();
  }

  /** Resolves when all answers are in. */
  async run(): Promise<void> {
    const { addresses, options } = this;
    const { reach, ports } = options;
    const { signal } = this.ended;
    const onAsked = (count: number) => {
      this.asked += count;
    };
    try {
      await Promise.all(
        drivers.map(async (driver) => {
          const range = { addresses, ports, reach, signal, onAsked };
          for await (const { key, found } of driver.scan?.(range) ?? [])
            this.found.set(key, { ...found, address: this.plannedAddress(found.at) });
        }),
      );
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
