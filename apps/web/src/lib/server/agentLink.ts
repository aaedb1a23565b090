import {
  withNews,
  type BenchStatus,
  type ExchangeStory,
  type ImageNews,
  type LiveNews,
  type TraceLine,
  type WireStatus,
} from '@fadenkreuz/field/agent-api';
import { Problem } from '@fadenkreuz/core';
import WebSocket from 'ws';

export interface AgentNews {
  /** Undefined while the agent is away. */
  status: BenchStatus | undefined;
  /** What has changed since the last; undefined: all of it. */
  news: LiveNews | undefined;
}

type Listener = (news: AgentNews) => void;

const retryMs = 300;
/** An agent that says nothing for so long stands still, and is away like one that has ended, ms. */
const answerWithinMs = 4000;
/** What takes its time by itself: a bench of hundreds of devices, a device that is restarted at another address. */
const patienceMs: Record<string, number> = {
  '/bench': 60_000,
  '/wire/address': 60_000,
  '/wire/keep': 20_000,
};
/** How often the way to the agent is tried, ms. */
const pingMs = 1500;

/** The web server's one connection to the agent: passes live status on and forwards requests. */
export class AgentLink {
  private readonly listeners = new Set<Listener>();
  private socket: WebSocket | undefined;
  last: BenchStatus | undefined;

  constructor(
    private readonly host: string,
    private readonly secret: string,
  ) {
    this.connect();
  }

  /** Calls back at once with the latest news, then with each that comes; returns the way to end it. */
  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    listener({ status: this.last, news: undefined });
    return () => this.listeners.delete(listener);
  }

  /** Which cell runs, if any. Throws `agent.away`. */
  async runs(): Promise<BenchStatus['bench']> {
    return (await this.forward<Pick<BenchStatus, 'bench'>>('GET', '/bench')).bench;
  }

  /** Forwards a request that changes the state. Throws the agent's Problem, or `agent.away`. */
  request(method: 'POST' | 'PUT' | 'DELETE', path: string, body?: unknown): Promise<BenchStatus> {
    return this.forward<BenchStatus>(method, path, body);
  }

  /** Lines of the trace behind a number. Throws `agent.away`. */
  trace(since: number): Promise<TraceLine[]> {
    return this.forward<TraceLine[]>('GET', `/trace?since=${since}`);
  }

  /** What is known of an exchange that ran, or runs. Throws the agent's Problem, or `agent.away`. */
  exchange(id: string): Promise<{ story: ExchangeStory | null }> {
    return this.forward('GET', `/exchange?exchange=${encodeURIComponent(id)}`);
  }

  /** What images became, packet by packet. Throws the agent's Problem, or `agent.away`. */
  images(body: unknown): Promise<ImageNews> {
    return this.forward<ImageNews>('POST', '/images', body);
  }

  /** What the agent knows of the wire, or does there. Throws the agent's Problem, or `agent.away`. */
  wire<T = WireStatus>(method: 'GET' | 'POST' | 'DELETE', path = '', body?: unknown): Promise<T> {
    return this.forward<T>(method, `/wire${path}`, body);
  }

  /** What is known of the parameters of devices, or is done with them. Throws the agent's Problem, or `agent.away`. */
  parameters(method: 'GET' | 'POST', path: string, body?: unknown): Promise<unknown> {
    return this.forward<unknown>(method, `/parameters${path}`, body);
  }

  /** The recorded traffic, a pcapng file. Throws `capture.nothing`, or `agent.away`. */
  async capture(): Promise<ReadableStream | null> {
    return (await this.reach('GET', '/capture')).body;
  }

  private async forward<T>(method: string, path: string, body?: unknown): Promise<T> {
    return (await this.reach(method, path, body)).json() as Promise<T>;
  }

  private async reach(method: string, path: string, body?: unknown): Promise<Response> {
    const answer = await fetch(`http://${this.host}${path}`, {
      method,
      headers: { ...this.headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(patienceMs[path] ?? answerWithinMs),
    }).catch((cause: Error) => {
      throw new Problem('agent.away', { reason: causeText(cause) }, { cause });
    });
    if (answer.ok) return answer;
    const result = (await answer.json()) as { code?: never; facts?: never };
    if (result.code) throw new Problem(result.code, result.facts as never);
    throw new Problem('agent.away', { reason: `it answered with HTTP status ${answer.status}` });
  }

  private get headers() {
    return { authorization: `Bearer ${this.secret}` };
  }

  private connect(): void {
    const socket = new WebSocket(`ws://${this.host}/live`, { headers: this.headers });
    this.socket = socket;
    socket.on('message', (data) => {
      const news = JSON.parse((data as Buffer).toString()) as LiveNews;
      this.last = withNews(this.last, news);
      this.tell(news);
    });
    socket.on('error', () => undefined);
    // A process that stands still keeps its sockets open.
    let heardAt = performance.now();
    const heard = () => void (heardAt = performance.now());
    socket.on('open', heard).on('pong', heard).on('message', heard);
    const ping = setInterval(() => {
      if (performance.now() - heardAt > answerWithinMs) socket.terminate();
      else if (socket.readyState === WebSocket.OPEN) socket.ping();
    }, pingMs);
    ping.unref();
    socket.on('close', () => {
      clearInterval(ping);
      const was = this.last;
      this.last = undefined;
      if (was) this.tell(undefined);
      setTimeout(() => this.connect(), retryMs).unref();
    });
  }

  private tell(news: LiveNews | undefined): void {
    for (const listener of this.listeners) listener({ status: this.last, news });
  }
}

function causeText(error: Error): string {
  const { cause } = error as { cause?: { code?: string } };
  return error.name === 'TimeoutError' ? 'it does not answer' : (cause?.code ?? error.message);
}
