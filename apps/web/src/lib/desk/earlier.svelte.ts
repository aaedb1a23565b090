import { z } from 'zod';
import type { Cell } from '@fadenkreuz/core';
import type { Note } from './send.js';

/** A stored change of the cell: it made this version. */
export interface StoredChange {
  version: number;
  title: string;
  at: string;
}

const Change = z.object({ version: z.number(), title: z.string(), at: z.string() });

/** The states that a cell had before each of its changes. */
export class EarlierStates {
  changes = $state.raw<readonly StoredChange[]>([]);

  constructor(
    private readonly cell: () => string,
    private readonly tell: (note: Note) => void,
  ) {}

  async load(): Promise<void> {
    const answer = await fetch(`/api/cells/${this.cell()}/changes`);
    if (answer.ok) this.changes = z.array(Change).parse(await answer.json());
  }

  /** The cell as it was in a version; undefined, and said, where that cannot be had. */
  async at(version: number): Promise<Cell | undefined> {
    const answer = await fetch(`/api/cells/${this.cell()}/versions/${version}`);
    // The server has checked it.
    if (answer.ok) return (await answer.json()) as Cell;
    this.tell((await answer.json()) as Note);
    return undefined;
  }

  /** How a version is called: by the change that ended it. */
  titleOf(version: number): string {
    const change = this.changes.find((c) => c.version - 1 === version);
    return change ? `before: ${change.title}` : '';
  }
}
