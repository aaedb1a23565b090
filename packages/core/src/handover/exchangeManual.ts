import type { Cell } from '../cell/model.js';
import { identifierOf } from '../entries/identifiers.js';
import { sentencesOf } from '../exchanges/sentences.js';

/** The exchanges of a cell in words, for the manual of the machine; Markdown. Empty where there are none. */
export function exchangeManual(cell: Cell): string {
  if (cell.exchanges.length === 0) return '';
  const parts = cell.exchanges.map((exchange) => {
    const variables = exchange.variables.map(
      ({ name, type, given, result }) =>
        `- ${name}: a ${type}${result ? ', a result' : given === '' ? '' : `, ${String(given)} unless said otherwise`}`,
    );
    return [
      `## ${exchange.name}`,
      ...(exchange.note ? [exchange.note] : []),
      ...(variables.length > 0 ? [variables.join('\n')] : []),
      sentencesOf(cell, exchange).join('\n'),
    ].join('\n\n');
  });
  return [`# Exchanges of ${cell.name}`, ...parts].join('\n\n') + '\n';
}

export const exchangeManualFile = (cell: Cell): string => `${identifierOf(cell.name)}_exchanges.md`;
