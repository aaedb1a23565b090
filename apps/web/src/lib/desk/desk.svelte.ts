import { check, imagesOf, type Cell, type Device, type Edit, type Finding } from '@fadenkreuz/core';
import type { BenchStatus, LinkStatus, TraceLine } from '@fadenkreuz/field/agent-api';
import { getContext, setContext } from 'svelte';
import { Change, type Stored } from '../api/changes.js';
import { News } from '../api/live.js';
import { CellEdits } from './cellEdits.svelte.js';
import { LiveBench } from './liveBench.svelte.js';
import { ChangeFinder } from './changeFinder.svelte.js';
import { ImageFollower } from './imageFollower.svelte.js';
import { KeptChanges } from './keptChanges.js';
import { Messages } from './messages.svelte.js';
import { perCell } from './perCell.js';
import { ParameterFollower } from './parameterFollower.svelte.js';
import { Pins } from './pins.svelte.js';
import { Recorder } from './recorder.svelte.js';
import type { Note } from './send.js';
import { TraceFollower } from './traceFollower.svelte.js';

/** The server says three times in this time that it is there, ms. */
const silentMs = 4500;

interface Crosshair {
  image: string;
  bit: number;
}

const findingsOf = perCell((cell) => check(cell));

/**
 * What the views of one cell share: the cell with its unsaved edits, the bench as it runs, its trace, where the
 * crosshair is, and which parts of the program answer. Each of these stands in a file of its own; here they meet, and
 * hear what the server tells.
 */
export class Desk {
  serverThere = $state(true);
  databaseThere = $state(true);
  /** What the person was told. */
  readonly messages = new Messages();
  private pinned = $state<Crosshair | null>(null);
  private selected = $state<string>();
  /** Signals that are being recorded for the chart. */
  readonly recorder: Recorder;
  /** Images packet by packet, of those that are looked at so closely. */
  readonly images: ImageFollower;
  /** What was read of the devices beside their images. */
  readonly parameters: ParameterFollower;
  /** Which bit is it? */
  readonly finder: ChangeFinder;
  /** Values that stay in sight on the bench. */
  readonly pins: Pins;
  readonly live: LiveBench;
  private readonly edits: CellEdits;
  private readonly follower = new TraceFollower();
  /**
   * Names this browser window: to the agent, which takes Arm back when it goes, and to the server, for what it shows
   * and changes.
   */
  private readonly id = crypto.randomUUID();

  constructor(stored: Stored, person: string) {
    const tell = (note: Note | null) => void (this.note = note);
    this.edits = new CellEdits(stored, person, this.id, tell);
    this.pins = new Pins(this.cell.id);
    this.live = new LiveBench(() => this.cell, this.id, tell);
    this.images = new ImageFollower(
      () => this.cell,
      () => this.running,
    );
    this.parameters = new ParameterFollower(() => this.running, this.id, tell);
    this.recorder = new Recorder(() => this.cell, this.images, this.parameters);
    this.finder = new ChangeFinder(() => this.cell, this.images);
  }

  /** What the last action met, until it is dismissed or something goes well; setting null says that it did. */
  get note(): Note | null {
    return this.messages.open?.note ?? null;
  }
  set note(note: Note | null) {
    if (note) this.messages.tell(note);
    else this.messages.answer();
  }

  get cell(): Cell {
    return this.edits.cell;
  }
  get undoTitle(): string | null {
    return this.edits.undoTitle;
  }
  get redoTitle(): string | null {
    return this.edits.redoTitle;
  }
  get unsaved(): number {
    return this.edits.unsaved;
  }
  /** Why an edit is not stored yet; null while nothing stands in its way. */
  get waiting(): Note | null {
    return this.edits.waiting;
  }

  /** The bit under the crosshair. */
  get crosshair(): Crosshair | null {
    return this.pinned;
  }
  set crosshair(to: Crosshair | null) {
    this.pinned = to;
    const device =
      to && this.cell.devices.find((d) => d.links.some((l) => imagesOf(l).some((i) => i.id === to.image)));
    if (device) this.selected = device.id;
  }
  /** The device that is chosen on all views: what was chosen last, or the one under the crosshair. */
  get chosen(): Device | undefined {
    return this.cell.devices.find((d) => d.id === this.selected) ?? this.cell.devices[0];
  }
  /** Chooses a device; the crosshair goes to its images, unless it is there. */
  choose(deviceId: string): void {
    this.selected = deviceId;
    const [link] = this.chosen?.links ?? [];
    const here = this.chosen?.links.some((l) => imagesOf(l).some((i) => i.id === this.pinned?.image));
    if (link && !here) this.pinned = { image: link.feedback.id, bit: 0 };
  }

  /** Of the design alone: worked out when the cell changes, not with every news of the bench. */
  private readonly designFindings: Finding[] = $derived.by(() => findingsOf(this.cell));
  readonly findings: Finding[] = $derived.by(() => [...this.live.findings, ...this.designFindings]);

  get bench(): BenchStatus | null | undefined {
    return this.live.status;
  }
  get bytes(): ReadonlyMap<string, Uint8Array> {
    return this.live.bytes;
  }
  get running(): boolean {
    return this.live.running;
  }
  get armed(): boolean {
    return this.live.armed;
  }
  /** Somebody else may write to the devices. */
  get armedElsewhere(): boolean {
    return this.live.armedElsewhere;
  }
  /** Why writing is not allowed any more that this window was allowed; undefined where it never was, or gave it up. */
  get disarmedBecause(): string | undefined {
    if (!this.live.hasArmed) return undefined;
    const last = this.trace.findLast((line) => line.event.what === 'disarmed')?.event;
    return last?.what === 'disarmed' ? last.why : undefined;
  }
  /** Takes the permission to write back. */
  disarm(): Promise<boolean> {
    return this.live.disarm();
  }
  /** This browser window, as the agent knows it. */
  get holder(): string {
    return this.id;
  }
  get trace(): readonly TraceLine[] {
    return this.follower.lines;
  }
  linkStatus(deviceId: string): LinkStatus | undefined {
    return this.live.linkStatus(deviceId);
  }

  /** Shows an edit at once and has it stored; one that the model refuses changes nothing and says why. */
  edit(edit: Edit): boolean {
    return this.edits.edit(edit);
  }
  undo(): void {
    this.edits.undo();
  }
  redo(): void {
    this.edits.redo();
  }

  /** Asks the bench for something; a refusal becomes the note. */
  ask(method: 'POST' | 'DELETE', path: string, body?: unknown): Promise<boolean> {
    return this.live.ask(method, path, body);
  }

  /** Asks for something that needs Arm; a refusal becomes the note. */
  askArmed(path: string, body: object): Promise<boolean> {
    return this.live.askArmed(path, body);
  }

  /** Allows writing for some seconds, or until this browser goes. */
  arm(seconds: number): Promise<boolean> {
    return this.live.arm(seconds);
  }

  /** Listens to the server, and keeps unsaved changes in the browser; returns the way to end it. */
  listen(): () => void {
    this.edits.keepIn(new KeptChanges(localStorage, this.cell.id, this.id));
    const events = new EventSource(`/api/cells/${this.cell.id}/events?desk=${this.id}`);
    let heardAt = performance.now();
    const there = () => {
      heardAt = performance.now();
      if (this.serverThere) return;
      this.serverThere = true;
      void this.edits.reload();
    };
    // A server that stands still ends no conversation: it is away as soon as it is silent.
    const watch = setInterval(() => {
      if (performance.now() - heardAt > silentMs) this.serverThere = false;
    }, 500);
    const on = (event: string, hear: (data: unknown) => void) =>
      events.addEventListener(event, (e) => {
        there();
        hear(JSON.parse((e as MessageEvent<string>).data));
      });
    events.addEventListener('open', () => {
      // What was said before this way stood was said to nobody.
      void this.live.watch(true);
      there();
    });
    on('here', () => undefined);
    events.addEventListener('error', () => (this.serverThere = false));
    on('bench', (data) => this.hearBench(data));
    on('database', (there) => {
      if (there === true && !this.databaseThere) void this.edits.reload();
      this.databaseThere = there === true;
    });
    on('change', (data) => {
      const change = Change.safeParse(data);
      if (change.success) this.edits.hear(change.data);
    });
    on('version', (version) => this.edits.hearVersion(Number(version)));
    return () => {
      clearInterval(watch);
      this.images.end();
      events.close();
    };
  }

  private hearBench(data: unknown): void {
    const news = News.safeParse(data);
    if (!news.success) return;
    this.live.hear(news.data);
    void this.follower.follow(this.running ? (this.bench?.lastTrace ?? 0) : 0);
  }
}

const key = Symbol('desk');
export const provideDesk = (desk: Desk): Desk => setContext(key, desk);
export const useDesk = (): Desk => getContext<Desk>(key);
