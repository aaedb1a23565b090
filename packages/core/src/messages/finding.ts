import type { Code, Facts } from './facts.js';
import { wordingOf, type ProblemReport } from './problem.js';

/** error: it will not work; warning: it will work and surprise; notice: to be known. */
export type Severity = 'error' | 'warning' | 'notice';

/** Where in the cell a finding belongs: ids, outermost first; absent parts mean the whole. */
export interface Place {
  device?: string;
  image?: string;
  field?: string;
  parameter?: string;
  exchange?: string;
  /** Of an exchange. */
  step?: string;
}

/** An edit of the cell as data (cell/edits); it is checked when it is applied. */
export interface EditRequest {
  edit: string;
  [entry: string]: unknown;
}

/** What a check or the bench says of the cell. */
export interface Finding extends ProblemReport {
  severity: Severity;
  place: Place;
  /** The edit that cures it, where one does, and what its button says. */
  fix?: { title: string; edit: EditRequest };
}

/** A finding with its sentence filled in. */
export function finding<C extends Code>(
  code: C,
  severity: Severity,
  place: Place,
  facts: Facts[C],
  fix?: Finding['fix'],
): Finding {
  return { code, severity, place, facts, ...wordingOf(code, facts), ...(fix ? { fix } : {}) };
}
