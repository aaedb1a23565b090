import { linkBudget } from '../budget/linkBudget.js';
import { finding, type Finding } from '../messages/finding.js';
import type { Cell } from '../cell/model.js';
import type { Rule } from './rule.js';

/** Above this share of a port bursts begin to wait for each other; common practice, no source. */
const busyPort = 0.5;

/** Connections and packets a second that a part of the cell's links need together. */
function needs({ controller, network }: Cell, links: Cell['devices'][number]['links']) {
  const budgets = links.map((link) => linkBudget(link, controller.cycle / 1000, network.rate));
  const sum = (of: (budget: (typeof budgets)[number]) => number) => budgets.reduce((n, b) => n + of(b), 0);
  return {
    connections: links.length,
    packets: Math.round(sum((b) => b.packetsPerSecond)),
    share: Math.max(
      sum((b) => b.command.share),
      sum((b) => b.feedback.share),
    ),
  };
}

/** Links within what the controller, its port and each device can carry, as their manuals say. */
export const withinLimits: Rule = (cell) => {
  const parties = [
    { ...cell.controller, place: {}, links: cell.devices.flatMap((d) => d.links) },
    ...cell.devices.map((d) => ({ ...d, place: { device: d.id } })),
  ];
  return parties.flatMap(({ name, limits, links, place }): Finding[] => {
    const { connections, packets, share } = needs(cell, links);
    const over = (used: number, limit: number | null): limit is number => limit !== null && used > limit;
    return [
      ...(over(connections, limits.connections)
        ? [
            finding('limits.connections', 'error', place, {
              name,
              used: connections,
              limit: limits.connections,
            }),
          ]
        : []),
      ...(over(packets, limits.packets)
        ? [finding('limits.packets', 'error', place, { name, used: packets, limit: limits.packets })]
        : []),
      ...(share > busyPort
        ? [
            finding('limits.port', 'warning', place, {
              name,
              share: Math.round(share * 100),
              rate: cell.network.rate,
            }),
          ]
        : []),
    ];
  });
};
