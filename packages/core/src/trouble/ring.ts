import type { EditRequest } from '../messages/finding.js';

/**
 * One write to a command image: a signal, or a bit of one. `set` puts a value there, `pulse` gives it for as long as
 * the wire needs and takes it back, `renew` takes it to 0 first: for what acts only by its edge, or by leaving 0.
 */
export interface CommandOrder {
  title: string;
  /** Id of the signal. */
  field: string;
  bit: number | null;
  how: 'set' | 'pulse' | 'renew' | 'toggle' | 'increment';
  value: boolean | number | string;
}

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
  /** One write to the device that closes it. */
  does?: CommandOrder | undefined;
  /** Parameters that say more of it, by id. */
  reads?: readonly string[];
  /** It is open only because nobody asks for anything: the device idles, and is not kept from its work. */
  idle?: boolean;
  /** Names the condition in changes of a chain. */
  id?: string;
}

/** The first that stops; undefined where none is open. */
export const firstOpen = (rings: readonly Ring[]): Ring | undefined => rings.find((r) => r.state === 'open');
