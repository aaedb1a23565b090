import type { TraceLine } from '@fadenkreuz/field/agent-api';
import { TraceLines } from '../api/live.js';
import { send } from './send.js';

/** Lines of the trace that are kept. */
const mostLines = 2000;

/** What happened on the bench, the newest last: follows the numbers that the bench tells. */
export class TraceFollower {
  lines = $state.raw<readonly TraceLine[]>([]);
  private asking = false;

  /** `last`: the number of the bench's last line; 0 while it does not run. */
  async follow(last: number): Promise<void> {
    const known = this.lines.at(-1)?.number ?? 0;
    // Another bench counts from the beginning.
    if (last < known) this.lines = [];
    if (this.asking || last === 0 || last === known) return;
    this.asking = true;
    const since = last < known ? 0 : known;
    const answer = await send('GET', `/api/bench/trace?since=${since}`, TraceLines);
    this.asking = false;
    if (!answer.ok) return;
    const fresh = answer.value.filter((line) => line.number > since);
    this.lines = [...this.lines, ...fresh].slice(-mostLines);
  }
}
