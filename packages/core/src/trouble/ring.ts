import type { EditRequest } from '../messages/finding.js';

/**
 * A condition of a chain that must be closed for a device to do something: closed it holds, open it stops everything
 * behind it. The first open one is what to look at.
 */
export interface Ring {
  title: string;
  state: 'closed' | 'open' | 'unknown';
  /** What it is, or what is wrong and what to do. */
  says: string;
  /** An edit of the plan that closes it. */
  fix?: { title: string; edit: EditRequest } | undefined;
  /** Parameters that say more of it, by id. */
  reads?: readonly string[];
}

/** The first that stops; undefined where none is open. */
export const firstOpen = (rings: readonly Ring[]): Ring | undefined => rings.find((r) => r.state === 'open');
