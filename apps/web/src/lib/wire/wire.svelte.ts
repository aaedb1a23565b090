import { compareLineUp, type Compared } from '@fadenkreuz/core';
import type { WireStatus } from '@fadenkreuz/field/agent-api';
import type { Desk } from '../desk/desk.svelte.js';
import type { z } from 'zod';
import { Wire, WireDone } from '../api/live.js';
import { send } from '../desk/send.js';

/** How often the agent is asked while something goes on there, and while nothing does, ms. */
const busyMs = 300;
const quietMs = 3000;

/** What is known of the wire, kept up to date while it is looked at. */
export class WireWatch {
  status = $state.raw<WireStatus>();
  /** What is under way, so that nobody asks for it twice. */
  working = $state<string>();
  /** What was done last, step by step. */
  done = $state.raw<readonly string[]>([]);

  /** Found against planned; worked out again when either changes. */
  readonly lines: readonly Compared[] = $derived.by(() => {
    const found = this.status?.scan?.found;
    return found ? compareLineUp(this.desk.cell, found) : [];
  });

  private timer: ReturnType<typeof setTimeout> | undefined;
  private ended = false;

  constructor(private readonly desk: Desk) {}

  /** Begins to look; returns the way to end it. */
  watch(): () => void {
    void this.look();
    return () => {
      this.ended = true;
      clearTimeout(this.timer);
    };
  }

  scan(ranges: readonly string[]): Promise<boolean> {
    const { cell } = this.desk;
    const planned = cell.devices.flatMap((d) => d.links.flatMap((l) => ('port' in l ? [l.port] : [])));
    // A port below 1024 may stand 1000 higher on the bench.
    const wanted = [502, ...planned].flatMap((p) => (p < 1024 ? [p, p + 1000] : [p]));
    const ports = wanted.filter((port, i) => wanted.indexOf(port) === i).slice(0, 8);
    return this.ask('scan', 'POST', { ranges, ports, planned: cell.controller.address });
  }

  stopScan(): Promise<boolean> {
    return this.ask('scan', 'DELETE');
  }

  /** Takes some seconds: the device is restarted and looked for at its new address. */
  async setAddress(order: {
    at: string;
    address: string;
    mask: string;
    gateway: string | null;
  }): Promise<boolean> {
    this.done = [];
    const answer = await this.send('address', 'POST', WireDone, { ...order, holder: this.desk.holder });
    if (!answer) return false;
    this.done = answer.done;
    return true;
  }

  keep(at: string): Promise<boolean> {
    return this.ask('keep', 'POST', { at, holder: this.desk.holder });
  }

  give(order: object): Promise<boolean> {
    return this.ask('assign', 'POST', { ...order, server: this.desk.cell.controller.address });
  }

  stopAssigning(): Promise<boolean> {
    return this.ask('assign', 'DELETE');
  }

  private async ask(action: string, method: 'POST' | 'DELETE', body?: object): Promise<boolean> {
    const answer = await this.send(action, method, Wire, body);
    if (!answer) return false;
    this.status = answer;
    this.plan(busyMs);
    return true;
  }

  /** The answer, or undefined when it was refused; the refusal becomes the note. */
  private async send<S extends z.ZodType>(
    action: string,
    method: 'POST' | 'DELETE',
    schema: S,
    body?: object,
  ): Promise<z.output<S> | undefined> {
    if (this.working) return undefined;
    this.working = action;
    const answer = await send(method, `/api/wire/${action}`, schema, body);
    this.working = undefined;
    this.desk.note = answer.ok ? null : answer.problem;
    return answer.ok ? answer.value : undefined;
  }

  private async look(): Promise<void> {
    const answer = await send('GET', '/api/wire', Wire);
    if (this.ended) return;
    if (answer.ok) this.status = answer.value;
    const busy = this.status?.scan?.running || this.status?.assigning;
    this.plan(busy ? busyMs : quietMs);
  }

  private plan(ms: number): void {
    clearTimeout(this.timer);
    if (!this.ended) this.timer = setTimeout(() => void this.look(), ms);
  }
}
