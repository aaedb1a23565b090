import { wordingOf } from '../../messages/problem.js';
import type { Code, Facts } from '../../messages/facts.js';
import type { Defect } from './described.js';

const mostDefects = 200;

/** Lists what is wrong with a file, up to a bound: one that is wrong everywhere says so often enough. */
export class Defects {
  private readonly found: Defect[] = [];

  add<C extends Code>(line: number, code: C, facts: Facts[C]): void {
    if (this.found.length < mostDefects) this.found.push({ code, facts, line, ...wordingOf(code, facts) });
  }

  /** In the order of the lines. */
  get list(): Defect[] {
    return [...this.found].sort((a, b) => a.line - b.line);
  }
}
