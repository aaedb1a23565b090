import { en } from './en.js';
import type { Code, Facts } from './facts.js';
import type { Wording } from './wording.js';

/** The sentence and the cure of a code, in the reader's language (English so far). */
export function wordingOf<C extends Code>(code: C, facts: Facts[C]): Wording {
  return en[code](facts);
}

/** What a problem looks like on its way to a screen or to `--json`. */
export interface ProblemReport extends Wording {
  code: Code;
  facts: Facts[Code];
}

/**
 * The one error class. It is thrown where something cannot be done; what a check says of a cell is a Finding and is
 * returned instead.
 */
export class Problem<C extends Code = Code> extends Error {
  override readonly name = 'Problem';
  readonly cure: string;

  constructor(
    readonly code: C,
    readonly facts: Facts[C],
    options?: { cause?: unknown },
  ) {
    const wording = wordingOf(code, facts);
    super(wording.says, options);
    this.cure = wording.cure;
  }

  report(): ProblemReport {
    return { code: this.code, facts: this.facts, says: this.message, cure: this.cure };
  }
}
