import type { TraceEvent } from '@fadenkreuz/core';
import type { TraceLine } from './report.js';

const kept = 2000;

/** What happened on a bench, the last lines of it. */
export class Trace {
  private readonly lines: TraceLine[] = [];
  private count = 0;

  constructor(private readonly onLine: (line: TraceLine) => void = () => undefined) {}

  add(device: string | null, event: TraceEvent): void {
    const line = { number: (this.count += 1), at: Date.now(), device, event };
    this.lines.push(line);
    if (this.lines.length > kept) this.lines.shift();
    this.onLine(line);
  }

  /** Number of the last line; 0 before the first. */
  get last(): number {
    return this.count;
  }

  /** The lines behind a number, the oldest first. */
  since(number: number): TraceLine[] {
    const missing = this.count - number;
    return missing <= 0 ? [] : this.lines.slice(-missing);
  }
}
