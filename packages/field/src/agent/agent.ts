import { Problem, type Cell } from '@fadenkreuz/core';
import { Bench } from '../bench/bench.js';
import type { BenchStatus, LinkStatus, Write } from './api.js';

/** The state of the agent: at most one bench, and how long writing is allowed. Holds nothing of the design. */
export class Agent {
  private bench: Bench | undefined;
  private version = 0;
  private run = true;
  private armedUntil = 0;
  /** Starting and stopping happen one after the other, in the order of the requests. */
  private turn: Promise<unknown> = Promise.resolve();

  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const result = this.turn.then(work);
    this.turn = result.catch(() => undefined);
    return result;
  }

  start(cell: Cell, version: number): Promise<void> {
    return this.inTurn(async () => {
      if (this.bench) throw new Problem('bench.alreadyRuns', { cell: this.bench.designed.name });
      const bench = new Bench(cell);
      await bench.start();
      this.bench = bench;
      this.version = version;
      this.run = true;
      this.armedUntil = 0;
    });
  }

  /** Takes over a newer version of the cell that runs; another cell or an older version is left alone. */
  update(cell: Cell, version: number): Promise<void> {
    return this.inTurn(async () => {
      if (this.bench?.designed.id !== cell.id || version <= this.version) return;
      this.version = version;
      await this.bench.update(cell);
    });
  }

  stop(): Promise<void> {
    return this.inTurn(async () => {
      const bench = this.bench;
      this.bench = undefined;
      this.armedUntil = 0;
      await bench?.stop();
    });
  }

  arm(seconds: number): void {
    this.running();
    this.armedUntil = performance.now() + seconds * 1000;
  }

  disarm(): void {
    this.armedUntil = 0;
  }

  setRun(run: boolean): void {
    this.requireArmed();
    this.running().setRun(run);
    this.run = run;
  }

  write({ device, field, value }: Write): void {
    this.running();
    this.requireArmed();
    this.running().write(device, field, value);
  }

  status(): BenchStatus {
    const { bench } = this;
    return {
      bench: bench ? { cell: bench.designed.id, version: this.version, run: this.run } : null,
      armedForMs: Math.max(0, this.armedUntil - performance.now()),
      links: (bench?.report() ?? []) satisfies LinkStatus[],
    };
  }

  private requireArmed(): void {
    if (performance.now() >= this.armedUntil) throw new Problem('bench.notArmed', {});
  }

  private running(): Bench {
    if (!this.bench) throw new Problem('bench.notRunning', {});
    return this.bench;
  }
}
