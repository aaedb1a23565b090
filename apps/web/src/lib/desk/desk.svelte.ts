import { applyEdit, check, Problem, type Cell, type Edit, type Finding } from '@fadenkreuz/core';
import type { BenchStatus, LinkStatus, TraceLine } from '@fadenkreuz/field/agent-api';
import { getContext, setContext } from 'svelte';
import { perCell } from './perCell.js';
import { Recorder } from './recorder.svelte.js';
import { send, type Note } from './send.js';

interface Stored {
  cell: Cell;
  version: number;
  undo: string | null;
  redo: string | null;
}

/** A change on its way to the server. */
interface Pending {
  id: string;
  path: 'changes' | 'undo' | 'redo';
  edit: Edit | undefined;
}

const findingsOf = perCell((cell) => check(cell));

/** Lines of the trace that are kept. */
const traceLines = 2000;

/** Pause before a change is sent again, ms. */
const retryMs = 700;

/**
 * What the views of one cell share: the cell with its unsaved edits, the bench as it runs, where the crosshair is, and
 * which parts of the program answer. An edit shows at once, is sent until it is confirmed, and is never sent twice
 * under two ids.
 */
export class Desk {
  cell = $state.raw<Cell>() as Cell;
  undoTitle = $state<string | null>(null);
  redoTitle = $state<string | null>(null);
  /** Undefined before the first news; null while the agent is away. */
  bench = $state.raw<BenchStatus | null | undefined>(undefined);
  serverThere = $state(true);
  databaseThere = $state(true);
  /** What the last action met, until it is read. */
  note = $state<Note | null>(null);
  unsaved = $state(0);
  /** What happened on the bench, the newest last. */
  trace = $state.raw<readonly TraceLine[]>([]);
  /** Signals that are being recorded for the chart. */
  readonly recorder = new Recorder();
  /** The bit under the crosshair. */
  crosshair = $state<{ image: string; bit: number } | null>(null);

  /** Of the design alone: worked out when the cell changes, not with every news of the bench. */
  private readonly designFindings: Finding[] = $derived(findingsOf(this.cell));
  /** What the running links say; the same list until something else is said, for news come ten times a second. */
  private benchFindings = $state.raw<readonly Finding[]>([]);
  readonly findings: Finding[] = $derived([...this.benchFindings, ...this.designFindings]);
  /** Raw bytes by image id, while the bench runs this cell. */
  readonly bytes: ReadonlyMap<string, Uint8Array> = $derived(this.liveBytes());

  private version: number;
  private readonly queue: Pending[] = [];
  private sending = false;
  private events: EventSource | undefined;
  private askingTrace = false;
  /** Names this browser to the agent, which takes Arm back when it goes. */
  private readonly holder = crypto.randomUUID();

  constructor(stored: Stored) {
    this.cell = stored.cell;
    this.version = stored.version;
    this.undoTitle = stored.undo;
    this.redoTitle = stored.redo;
  }

  /** Whether the bench runs, and runs this cell. */
  get running(): boolean {
    return this.bench?.bench?.cell === this.cell.id;
  }

  get armed(): boolean {
    return this.running && (this.bench?.armedForMs ?? 0) > 0;
  }

  linkStatus(deviceId: string): LinkStatus | undefined {
    return this.running ? this.bench?.links.find((l) => l.device === deviceId) : undefined;
  }

  /** Listens for changes by others and for the bench; returns the way to end it. */
  listen(): () => void {
    const events = new EventSource(`/api/cells/${this.cell.id}/events?desk=${this.holder}`);
    this.events = events;
    events.addEventListener('open', () => {
      const wasAway = !this.serverThere;
      this.serverThere = true;
      if (wasAway) void this.reload();
    });
    events.addEventListener('error', () => (this.serverThere = false));
    events.addEventListener('bench', (e) =>
      this.takeBench(JSON.parse(e.data as string) as BenchStatus | null),
    );
    events.addEventListener('database', (e) => {
      const there = JSON.parse(e.data as string) as boolean;
      if (there && !this.databaseThere) void this.reload();
      this.databaseThere = there;
    });
    events.addEventListener('cell', (e) => {
      const version = JSON.parse(e.data as string) as number;
      if (version > this.version && this.queue.length === 0) void this.reload();
    });
    return () => events.close();
  }

  /** Shows an edit at once and has it stored; one that the model refuses changes nothing and says why. */
  edit(edit: Edit): boolean {
    try {
      this.cell = applyEdit(this.cell, edit);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      this.note = error.report();
      return false;
    }
    this.note = null;
    this.enqueue({ id: crypto.randomUUID(), path: 'changes', edit });
    return true;
  }

  undo(): void {
    this.enqueue({ id: crypto.randomUUID(), path: 'undo', edit: undefined });
  }

  redo(): void {
    this.enqueue({ id: crypto.randomUUID(), path: 'redo', edit: undefined });
  }

  /** Allows writing for some seconds, or until this browser goes. */
  arm(seconds: number): Promise<boolean> {
    return this.ask('POST', '/arm', { seconds, holder: this.holder });
  }

  private takeBench(status: BenchStatus | null): void {
    this.bench = status;
    const said = (status?.links ?? []).flatMap((l) =>
      l.reason && l.state !== 'no-stand-in' ? [l.reason] : [],
    );
    if (
      said.length + this.benchFindings.length > 0 &&
      JSON.stringify(said) !== JSON.stringify(this.benchFindings)
    )
      this.benchFindings = said;
    if (this.running) this.recorder.take(this.cell, this.bytes, Date.now());
    void this.followTrace();
  }

  /** Fetches the lines of the trace that are new. */
  private async followTrace(): Promise<void> {
    const last = this.running ? (this.bench?.lastTrace ?? 0) : 0;
    const known = this.trace.at(-1)?.number ?? 0;
    if (last < known) this.trace = [];
    if (this.askingTrace || last === 0 || last === known) return;
    this.askingTrace = true;
    const since = last < known ? 0 : known;
    const answer = await send('GET', `/api/bench/trace?since=${since}`);
    this.askingTrace = false;
    if (!answer.ok) return;
    const fresh = (answer.value as TraceLine[]).filter((line) => line.number > since);
    this.trace = [...this.trace, ...fresh].slice(-traceLines);
  }

  /** Asks the bench for something; a refusal becomes the note. */
  async ask(method: 'POST' | 'DELETE', path: string, body?: unknown): Promise<boolean> {
    const answer = await send(method, `/api/bench${path}`, body);
    if (answer.ok) {
      this.takeBench(answer.value as BenchStatus);
      return true;
    }
    this.note = answer.problem;
    return false;
  }

  private enqueue(change: Pending): void {
    this.queue.push(change);
    this.unsaved = this.queue.length;
    void this.flush();
  }

  /** Sends what waits, one after the other, each until the server has said yes or no. */
  private async flush(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    for (let next = this.queue[0]; next; next = this.queue[0]) {
      const { id, path, edit } = next;
      const body = { id, madeOn: this.version, ...(edit ? { edit } : {}) };
      const answer = await send('POST', `/api/cells/${this.cell.id}/${path}`, body);
      if (answer.ok) {
        this.queue.shift();
        this.take(answer.value as Stored);
      } else if (answer.away) {
        // No answer, or a part is away: the same change with the same id is sent again until it is confirmed.
        await new Promise((resolve) => setTimeout(resolve, retryMs));
      } else {
        this.queue.length = 0;
        this.note = answer.problem;
        await this.reload();
      }
      this.unsaved = this.queue.length;
    }
    this.sending = false;
  }

  private take(stored: Stored): void {
    this.version = stored.version;
    this.undoTitle = stored.undo;
    this.redoTitle = stored.redo;
    // Edits that still wait were made on top of this state.
    if (this.queue.length === 0) this.cell = sharing(this.cell, stored.cell);
  }

  private async reload(): Promise<void> {
    const answer = await send('GET', `/api/cells/${this.cell.id}`);
    // What was asked for before an edit may arrive after its confirmation, and is then older.
    const current = answer.ok && (answer.value as Stored).version >= this.version && this.queue.length === 0;
    if (current) this.take(answer.value as Stored);
    else if (!answer.ok && !answer.away) this.note = answer.problem;
  }

  private liveBytes(): ReadonlyMap<string, Uint8Array> {
    // Made anew by $derived each time, so it need not be reactive itself.
    // eslint-disable-next-line svelte/prefer-svelte-reactivity
    const bytes = new Map<string, Uint8Array>();
    if (!this.running) return bytes;
    for (const status of this.bench?.links ?? []) {
      const link = this.cell.devices.flatMap((d) => d.links).find((l) => l.id === status.link);
      if (!link || status.state === 'no-stand-in') continue;
      bytes.set(link.command.id, fromBase64(status.command));
      // Bytes that no longer arrive are not shown as if they did.
      if (status.state === 'open') bytes.set(link.feedback.id, fromBase64(status.feedback));
    }
    return bytes;
  }
}

/**
 * The stored cell, with the values of `known` for all parts that are equal: what was worked out for them (signals,
 * findings, the tape) stays.
 */
function sharing(known: Cell, stored: Cell): Cell {
  const same = <T>(own: T | undefined, other: T): T =>
    own !== undefined && JSON.stringify(own) === JSON.stringify(other) ? own : other;
  const own = new Map(known.devices.map((d) => [d.id, d]));
  return {
    ...stored,
    controller: same(known.controller, stored.controller),
    notations: same(known.notations, stored.notations),
    devices: stored.devices.map((device) => same(own.get(device.id), device)),
  };
}

const fromBase64 = (text: string) => Uint8Array.from(atob(text), (c) => c.charCodeAt(0));

const key = Symbol('desk');
export const provideDesk = (desk: Desk): Desk => setContext(key, desk);
export const useDesk = (): Desk => getContext<Desk>(key);
