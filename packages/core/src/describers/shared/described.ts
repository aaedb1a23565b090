import type { Code } from '../../messages/facts.js';
import type { ProblemReport } from '../../messages/problem.js';

/** What every describer has, whatever it came from. */
export interface DescribedBase {
  /** What was read but is not understood, in its own words; nothing of a file is dropped. */
  kept: KeptSection[];
}

export interface KeptEntry {
  keyword: string;
  /** The fields as they were written, quotes and all. */
  fields: string[];
}

export interface KeptSection {
  name: string;
  entries: KeptEntry[];
}

/** What is wrong with a file, and where; it was read all the same. */
export interface Defect extends ProblemReport {
  code: Code;
  line: number;
}

export interface Described<D> {
  describer: D;
  defects: Defect[];
}
