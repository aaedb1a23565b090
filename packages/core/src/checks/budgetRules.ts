import { lineUpBudget } from '../lineup/lineUpBudget.js';
import { finding, type Finding } from '../messages/finding.js';
import type { Rule } from './rule.js';

/** Above this share of a port bursts begin to wait for each other; common practice, no source. */
const busyPort = 0.5;

/** Links within what the controller, its port and each device can carry, as their manuals say. */
export const withinLimits: Rule = (cell) => {
  const parties = [
    { name: cell.controller.name, limits: cell.controller.limits, place: {}, devices: cell.devices },
    ...cell.devices.map((d) => ({
      ...{ name: d.name, limits: d.description.limits },
      ...{ place: { device: d.id }, devices: [d] },
    })),
  ];
  return parties.flatMap(({ name, limits, devices, place }): Finding[] => {
    const { connections, packetsPerSecond, command, feedback } = lineUpBudget(cell, devices);
    const packets = Math.round(packetsPerSecond);
    const share = Math.max(command, feedback);
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
