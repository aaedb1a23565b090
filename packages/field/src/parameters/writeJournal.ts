import { appendFileSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import type { Outcome, WriteStep } from '@fadenkreuz/core';

/** A write of a series that was cut off, and how it ended. */
export interface CutLine extends WriteStep {
  device: string;
  outcome: Outcome;
}
/** A series of writes that ended with the process that wrote: killed, or without power. */
export interface CutSeries {
  id: string;
  /** Of the cell whose devices they are. */
  cell: string;
  /** ms since 1970. */
  begun: number;
  lines: CutLine[];
}

type Written = Omit<CutLine, 'outcome'>;
type Entry =
  | { begin: string; cell: string; at: number; steps: Written[] }
  | { try: string; n: number }
  | { end: string; n: number; outcome: Outcome }
  | { over: string };

/**
 * What is written to devices, on disk before it is sent: whoever comes after a process that was killed knows which
 * values are in a device, which one may be, and which are not. One line of JSON an entry; the file begins anew when
 * nothing is open. A disk that takes nothing is no reason not to write to a device: then it keeps nothing.
 */
export class WriteJournal {
  private readonly left: CutSeries[];
  private readonly open = new Set<string>();

  constructor(private readonly path: string) {
    this.left = existsSync(path) ? cutSeriesOf(readFileSync(path, 'utf8')) : [];
    this.rewrite();
  }

  /** Series that were cut off, until somebody has taken note of them. */
  get cut(): readonly CutSeries[] {
    return this.left;
  }

  /** A series begins; the steps of all of its devices, one device after the other. */
  begin(id: string, cell: string, steps: readonly Written[]): void {
    this.open.add(id);
    this.append({ begin: id, cell, at: Date.now(), steps: [...steps] });
  }
  /** Its step `n` is sent. */
  tries(id: string, n: number): void {
    this.append({ try: id, n });
  }
  ended(id: string, n: number, outcome: Outcome): void {
    this.append({ end: id, n, outcome });
  }
  over(id: string): void {
    this.open.delete(id);
    if (this.open.size === 0) this.rewrite();
    else this.append({ over: id });
  }

  /** Somebody has taken note of a series that was cut off. */
  forget(id: string): void {
    const at = this.left.findIndex((series) => series.id === id);
    if (at < 0) return;
    this.left.splice(at, 1);
    if (this.open.size === 0) this.rewrite();
    else this.append({ over: id });
  }

  private append(entry: Entry): void {
    this.onDisk(() => appendFileSync(this.path, `${JSON.stringify(entry)}\n`));
  }
  private rewrite(): void {
    const entries = this.left.flatMap(({ id, cell, begun, lines }): Entry[] => [
      { begin: id, cell, at: begun, steps: lines.map(({ outcome: _, ...step }) => step) },
      ...lines.map(({ outcome }, n): Entry => ({ end: id, n, outcome })),
    ]);
    if (entries.length === 0 && !existsSync(this.path)) return;
    this.onDisk(() => writeFileSync(this.path, entries.map((e) => `${JSON.stringify(e)}\n`).join('')));
  }
  private onDisk(work: () => void): void {
    try {
      work();
    } catch (error) {
      process.stderr.write(`The journal of writes takes nothing: ${String(error)}\n`);
    }
  }
}

/** The series of a journal that never were over. A step that was sent and did not end is not known. */
function cutSeriesOf(text: string): CutSeries[] {
  const series = new Map<string, CutSeries>();
  for (const line of text.split('\n')) {
    const entry = entryOf(line);
    if (!entry) continue;
    if ('begin' in entry)
      series.set(entry.begin, {
        ...{ id: entry.begin, cell: entry.cell, begun: entry.at },
        lines: entry.steps.map((step) => ({ ...step, outcome: 'not tried' })),
      });
    else if ('over' in entry) series.delete(entry.over);
    else {
      const id = 'try' in entry ? entry.try : entry.end;
      const step = series.get(id)?.lines[entry.n];
      if (step) step.outcome = 'try' in entry ? 'unknown' : entry.outcome;
    }
  }
  return [...series.values()];
}

/** Undefined for a line that was cut off itself. */
function entryOf(line: string): Entry | undefined {
  if (line === '') return undefined;
  try {
    return JSON.parse(line) as Entry;
  } catch {
    return undefined;
  }
}
