import pg from 'pg';
import { cellChannel, type CellNotice } from './repository/changes.js';

type Listener = (news: { notice: CellNotice } | { databaseThere: boolean }) => void;

const retryMs = 300;
/** How often the way to the database is tried, ms. */
const pingMs = 1000;
/** A database that says nothing for so long stands still, and is away like one that has ended, ms. */
const answerWithinMs = 3000;

/** Hears of every change of every cell (LISTEN) and tells those who watch; connects again after a loss. */
export class CellFeed {
  private readonly listeners = new Set<Listener>();
  private there = false;

  constructor(private readonly url: string) {
    void this.connect();
  }

  /** Calls back at once with whether the database is there, then with all news; returns the way to end it. */
  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    listener({ databaseThere: this.there });
    return () => this.listeners.delete(listener);
  }

  private tell(news: Parameters<Listener>[0]): void {
    for (const listener of this.listeners) listener(news);
  }

  private async connect(): Promise<void> {
    const client = new pg.Client({
      ...{ connectionString: this.url, connectionTimeoutMillis: 2000, query_timeout: answerWithinMs },
    });
    let over = false;
    let ping: NodeJS.Timeout | undefined;
    /** A process that stands still keeps its sockets open. */
    const tryLater = () => {
      ping = setTimeout(() => client.query('select 1').then(tryLater, lost), pingMs);
      ping.unref();
    };
    const lost = () => {
      if (over) return;
      over = true;
      clearTimeout(ping);
      if (this.there) {
        this.there = false;
        this.tell({ databaseThere: false });
      }
      client.end().catch(() => undefined);
      setTimeout(() => void this.connect(), retryMs).unref();
    };
    client.on('error', lost);
    client.on('end', lost);
    client.on('notification', ({ payload }) =>
      this.tell({ notice: JSON.parse(payload ?? '{}') as CellNotice }),
    );
    try {
      await client.connect();
      await client.query(`listen ${cellChannel}`);
      this.there = true;
      this.tell({ databaseThere: true });
      tryLater();
    } catch {
      lost();
    }
  }
}
