import { withNews, type BenchStatus, type LinkStatus, type LiveNews } from '@fadenkreuz/field/agent-api';
import type { Cell, Finding } from '@fadenkreuz/core';
import { liveBytes } from './liveBytes.js';
import { send, type Note } from './send.js';

/** How often a window that has armed says that it is still there, ms; the agent wants to hear it every 2 s. */
const hereMs = 500;

/**
 * News are drawn so far apart at least, ms: nobody reads figures more quickly, and drawing them costs more than all
 * else. What comes after a pause is drawn at once.
 */
const drawMs = 200;

/**
 * The bench as this browser sees it: what changes comes by itself, images only of the links that are shown somewhere.
 */
export class LiveBench {
  /** Undefined before the first news; null while the agent is away. */
  status = $state.raw<BenchStatus | null | undefined>(undefined);
  /** What the running links say; the same list until something else is said. */
  findings = $state.raw<readonly Finding[]>([]);
  /** This window was allowed to write, and has not given that up by itself. */
  hasArmed = $state(false);
  /** Raw bytes by image id, while the bench runs this cell. */
  readonly bytes: ReadonlyMap<string, Uint8Array> = $derived.by(() =>
    liveBytes(this.cell(), this.running ? (this.status?.links ?? []) : []),
  );
  /** By whom which links are shown. */
  private shown: Record<string, readonly string[]> = {};
  /** All that was heard, the state that is drawn or is going to be. */
  private latest: BenchStatus | null | undefined;
  private drawnAt = -Infinity;
  private drawing: ReturnType<typeof setTimeout> | undefined;
  private asked = '';
  private here: ReturnType<typeof setInterval> | undefined;

  constructor(
    private readonly cell: () => Cell,
    /** Names this browser window to the server. */
    private readonly desk: string,
    private readonly tell: (note: Note) => void,
  ) {}

  /** Whether the bench runs, and runs this cell. */
  get running(): boolean {
    return this.status?.bench?.cell === this.cell().id;
  }

  /** Whether this window may write. */
  get armed(): boolean {
    return this.running && this.armedForMs > 0 && this.status?.armedBy === this.desk;
  }
  /** Whether another window, or a program, may. */
  get armedElsewhere(): boolean {
    return this.running && this.armedForMs > 0 && this.status?.armedBy !== this.desk;
  }
  private get armedForMs(): number {
    return this.status?.armedForMs ?? 0;
  }

  /** Allows this window to write for some seconds, and says that it is still there as long as that lasts. */
  async arm(seconds: number): Promise<boolean> {
    const armed = await this.ask('POST', '/arm', { seconds, holder: this.desk });
    if (armed) this.hasArmed = true;
    if (armed && this.here === undefined)
      this.here = setInterval(() => {
        if (this.armed) void send('POST', '/api/bench/here', undefined, { holder: this.desk });
        else if (this.status !== undefined) this.endHere();
      }, hereMs);
    return armed;
  }
  /** Ends it by hand: then nobody needs to be told why it ended. */
  disarm(): Promise<boolean> {
    this.hasArmed = false;
    return this.ask('DELETE', '/arm');
  }
  private endHere(): void {
    clearInterval(this.here);
    this.here = undefined;
  }

  /** Asks for something that only the holder of the permission may; a refusal is told. */
  askArmed(path: string, body: object): Promise<boolean> {
    return this.ask('POST', path, { ...body, holder: this.desk });
  }

  linkStatus(deviceId: string): LinkStatus | undefined {
    return this.running ? this.status?.links.find((l) => l.device === deviceId) : undefined;
  }

  /** A part of the screen shows the images of these links from now on; none: it shows none any more. */
  show(part: string, links: readonly string[]): void {
    this.shown = { ...this.shown, [part]: links };
    void this.watch();
  }

  /** Tells the server what is shown; again after it was away. */
  async watch(again = false): Promise<void> {
    const links = Object.values(this.shown).flat().sort();
    const wanted = links.join();
    if (wanted === this.asked && !again) return;
    this.asked = wanted;
    const answer = await send('POST', '/api/live', undefined, { desk: this.desk, links });
    if (!answer.ok) this.asked = '';
  }

  /** Takes news of the bench; null: the agent is away. */
  hear(news: LiveNews | null): void {
    const before = this.latest;
    this.latest = news && withNews(before ?? undefined, news);
    const wait = drawMs - (performance.now() - this.drawnAt);
    // Whether it runs, and who may write, is never late.
    const turns = !news || !before || 'bench' in news.head || 'armedBy' in news.head;
    if (wait <= 0 || turns) this.draw();
    else this.drawing ??= setTimeout(() => this.draw(), wait);
    // A server that was started anew knows of no window what it shows.
    if (before === null && news) void this.watch(true);
  }

  private draw(): void {
    clearTimeout(this.drawing);
    this.drawing = undefined;
    this.drawnAt = performance.now();
    const status = (this.status = this.latest);
    const said = (status?.links ?? []).flatMap((l) =>
      l.reason && l.state !== 'no-stand-in' ? [l.reason] : [],
    );
    if (said.length + this.findings.length > 0 && JSON.stringify(said) !== JSON.stringify(this.findings))
      this.findings = said;
  }

  /**
   * Asks the bench for something; a refusal is told. What comes of it is heard like all else: an answer may be older
   * than what was heard meanwhile.
   */
  async ask(method: 'POST' | 'DELETE', path: string, body?: unknown): Promise<boolean> {
    const answer = await send(method, `/api/bench${path}`, undefined, body);
    if (!answer.ok) this.tell(answer.problem);
    return answer.ok;
  }
}
