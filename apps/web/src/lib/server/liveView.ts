import { imagesOf, newsFor, type BenchStatus, type LiveNews } from '@fadenkreuz/field/agent-api';
import type { AgentNews } from './agentLink.js';

/** What one browser sees of the bench: what changes of it, and images only of the links that it looks at. */
export class LiveView {
  private watched: ReadonlySet<string> = new Set();
  private last: BenchStatus | undefined;
  /** Something could not be told: the next news must be whole. */
  private behind = true;

  constructor(
    /** Sends news; null: the agent is away. False when the browser does not keep up. */
    private readonly send: (news: LiveNews | null) => boolean,
  ) {}

  hear({ status, news }: AgentNews): void {
    this.last = status;
    if (!status) {
      this.behind = true;
      this.send(null);
      return;
    }
    const { links, ...head } = status;
    const whole: LiveNews = { whole: true, head, links };
    const own = newsFor(this.behind || !news ? whole : news, this.watched);
    if (own) this.behind = !this.send(own);
  }

  /** Looks at these links from now on. */
  watch(links: readonly string[]): void {
    const before = this.watched;
    this.watched = new Set(links);
    const fresh = new Set(links.filter((link) => !before.has(link)));
    if (this.last && fresh.size > 0 && !this.behind) this.behind = !this.send(imagesOf(this.last, fresh));
  }
}

/** The views of the browsers that listen, by the browser window. */
const views = new Map<string, LiveView>();

export function openView(desk: string, view: LiveView): () => void {
  views.set(desk, view);
  return () => {
    if (views.get(desk) === view) views.delete(desk);
  };
}

export const viewOf = (desk: string): LiveView | undefined => views.get(desk);
