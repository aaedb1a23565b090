import type { Cell } from '../cell/model.js';
import { exchangeFindings } from '../exchanges/check.js';
import type { Exchange } from '../cell/exchange.js';
import type { Finding } from '../messages/finding.js';
import type { Rule } from './rule.js';

/** Exchanges never change, only the devices around them: what was found stands as long as both are the same. */
const judged = new WeakMap<Exchange, { devices: Cell['devices']; findings: Finding[] }>();

/** What is wrong with the exchanges of a cell. */
export const exchangesWrong: Rule = (cell) =>
  cell.exchanges.flatMap((exchange) => {
    const before = judged.get(exchange);
    if (before?.devices === cell.devices) return before.findings;
    const findings = exchangeFindings(cell, exchange);
    judged.set(exchange, { devices: cell.devices, findings });
    return findings;
  });
