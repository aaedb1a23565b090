import { Problem } from '@fadenkreuz/core';
import type { BenchStatus } from '@fadenkreuz/field/agent-api';
import type { AgentLink } from './agentLink.js';
import type { StoredCell } from './repository/cells.js';
import type { Made } from './repository/changes.js';

/** Starts the agent's bench with the stored state of a cell, and keeps it at the newest. */
export class RunningBench {
  /** The cell that was started last: the agent's news that it runs may still be under way. */
  private started: string | undefined;
  /** What the agent is told, one after the other. */
  private telling: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly agent: Pick<AgentLink, 'request' | 'runs' | 'last'>,
    private readonly load: (cellId: string) => Promise<StoredCell>,
  ) {}

  /** Throws `cell.unknown`, the agent's Problem, or `agent.away`. */
  async start(cellId: string): Promise<BenchStatus> {
    const stored = await this.load(cellId);
    const status = await this.agent.request('POST', '/bench', stored);
    this.started = cellId;
    // What was stored since then found no bench that it could have been told to.
    const newest = await this.load(cellId).catch(() => stored);
    return newest.version > stored.version ? this.agent.request('PUT', '/bench', newest) : status;
  }

  stop(): Promise<BenchStatus> {
    this.started = undefined;
    return this.agent.request('DELETE', '/bench');
  }

  /** Whether the bench runs this cell, by the agent itself: its last news may be older than a stop. Never rejects. */
  async runs(cellId: string): Promise<boolean> {
    const bench = await this.agent.runs().catch(() => undefined);
    return bench?.cell === cellId;
  }

  /**
   * Tells a running bench of a change of its cell: the edit, or the whole cell where it has another version than the
   * one before. The change is stored already: an agent that is away just now must not make it look failed. Never
   * rejects.
   */
  changed({ cell, change }: Pick<Made, 'cell' | 'change'>): Promise<void> {
    if (cell.id !== this.started && cell.id !== this.agent.last?.bench?.cell) return Promise.resolve();
    const told = this.telling.then(async () => {
      try {
        const { version, edit } = change;
        await this.agent.request('POST', '/bench/edit', { cell: cell.id, version, edit });
      } catch (error) {
        if (!(error instanceof Problem) || error.code === 'agent.away') throw error;
        const newest = await this.load(cell.id);
        await this.agent.request('PUT', '/bench', { cell: newest.cell, version: newest.version });
      }
    });
    this.telling = told.catch(() => undefined);
    return told.catch((error: Error) => console.error(error.message));
  }
}
