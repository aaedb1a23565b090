import pg from 'pg';
import { cellChannel, type CellNotice } from './repository/changes.js';

type Listener = (news: { notice: CellNotice } | { databaseThere: boolean }) => void;

const retryMs = 300;

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
    const client = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: 2000 });
    let over = false;
    const lost = () => {
      if (over) return;
      over = true;
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
    } catch {
      lost();
    }
  }
}
