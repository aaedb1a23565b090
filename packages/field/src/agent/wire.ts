import { Problem } from '@fadenkreuz/core';
import { networkInterfaces } from 'node:os';
import { AddressServer } from '../addresses/addressServer.js';
import { drivers } from '../protocols/list.js';
import { Scan } from '../scan/scan.js';
import { benchAddress, type Reach } from '../wire/reach.js';
import type { Adapter, Assign, SetAddress, StartScan, WireStatus } from './api.js';

/** What the agent does on the wire beside the bench: looks for devices and gives them addresses. */
export class Wire {
  private scan: Scan | undefined;
  private server: AddressServer | undefined;
  /** Opening and closing the server happen one after the other. */
  private turn: Promise<unknown> = Promise.resolve();

  constructor(private readonly reach: Reach) {}

  get status(): WireStatus {
    return {
      scan: this.scan?.state ?? null,
      assigning: this.server?.state ?? null,
      adapters: adapters(),
      reach: this.reach.texts,
    };
  }

  /**
   * Begins a scan; one that runs still is given up, for what it has seen may have changed since. Throws `scan.noRange`,
   * `scan.tooWide`.
   */
  startScan(options: StartScan): void {
    const scan = new Scan({ ...options, reach: this.reach });
    this.scan?.stop();
    this.scan = scan;
    // What a scan cannot do shows as devices that were not found.
    void scan.run().catch((error: unknown) => {
      if (!(error instanceof Problem)) console.error(error);
    });
  }

  stopScan(): void {
    this.scan?.stop();
  }

  /** Gives a device its address; what was done, in words. Throws `address.notSet`. */
  setAddress({ at, address, mask, gateway }: Omit<SetAddress, 'holder'>): Promise<string[]> {
    const then = at.startsWith('127.') ? benchAddress(address) : address;
    return addressing().setAddress!(at, { address, then, mask, gateway }, this.reach);
  }

  stopAsking(at: string): Promise<void> {
    return addressing().stopAsking!(at, this.reach);
  }

  /** Opens the server for addresses, or changes whom it serves and for how long. Throws `assigning.cannotListen`. */
  assign({ assignments, minutes, server: controller }: Assign): Promise<void> {
    return this.inTurn(async () => {
      if (!this.server) {
        const server = new AddressServer(benchAddress(controller), this.reach, () => {
          if (this.server === server) this.server = undefined;
        });
        await server.open();
        this.server = server;
      }
      this.server.give(assignments, minutes);
    });
  }

  stopAssigning(): Promise<void> {
    return this.inTurn(async () => {
      const { server } = this;
      this.server = undefined;
      await server?.close();
    });
  }

  async stop(): Promise<void> {
    this.stopScan();
    await this.stopAssigning();
  }

  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const result = this.turn.then(work);
    this.turn = result.catch(() => undefined);
    return result;
  }
}

function adapters(): Adapter[] {
  return Object.entries(networkInterfaces()).flatMap(([name, list]) =>
    (list ?? []).flatMap((own) =>
      own.family === 'IPv4' && !own.internal && own.cidr
        ? [{ name, address: own.address, subnet: own.cidr, mac: own.mac.toUpperCase().replaceAll(':', '-') }]
        : [],
    ),
  );
}

/** The protocol over which addresses are set: so far one of them can. */
const addressing = () => drivers.find((driver) => driver.setAddress)!;
