import type { BenchStatus } from '@fadenkreuz/field/agent-api';
import type { AgentLink } from './agentLink.js';
import type { StoredCell } from './repository/cells.js';

/** Starts the agent's bench with the stored state of a cell, and keeps it at the newest. */
export class RunningBench {
  /** The cell that was started last: the agent's news that it runs may still be under way. */
  private started: string | undefined;

  constructor(
    private readonly agent: Pick<AgentLink, 'request' | 'last'>,
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

  /**
   * Takes over a change of a cell, if that cell runs. The change is stored already: an agent that is away just now must
   * not make it look failed.
   */
  async changed({ cell, version }: StoredCell): Promise<void> {
    if (cell.id !== this.started && cell.id !== this.agent.last?.bench?.cell) return;
    await this.agent
      .request('PUT', '/bench', { cell, version })
      .catch((error: Error) => console.error(error.message));
  }
}
