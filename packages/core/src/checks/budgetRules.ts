import { withUpdate, type Link } from '../cell/link.js';
import { linkBudget } from '../protocols/linkBudget.js';
import { protocolOf } from '../protocols/list.js';
import { setLink } from '../protocols/protocol.js';
import { lineUpBudget } from '../lineup/lineUpBudget.js';
import { finding, type Finding } from '../messages/finding.js';
import type { Rule } from './rule.js';

/** Above this share of a port bursts begin to wait for each other; common practice, no source. */
const busyPort = 0.5;

/** A link that is quicker than its device, or its controller, can keep. */
export const updateWithinLimits: Rule = ({ controller, devices }) =>
  devices.flatMap((device) =>
    device.links.flatMap((link) => {
      const { quickestMs } = protocolOf(link).times(link);
      const parties = [
        { name: device.name, limit: device.description.limits.update },
        { name: controller.name, limit: controller.limits.update },
      ];
      return parties.flatMap(({ name, limit }): Finding[] => {
        if (limit === null || quickestMs * 1000 >= limit) return [];
        const facts = { device: device.name, name, update: quickestMs, limit: limit / 1000 };
        return [
          finding('limits.update', 'error', { device: device.id }, facts, {
            title: `Update every ${limit / 1000} ms`,
            edit: setLink<Link>(link, withUpdate(link, limit)),
          }),
        ];
      });
    }),
  );

/** A link whose worst reaction is slower than what was asked for. */
export const reactionAsWanted: Rule = ({ controller, network, devices }) =>
  devices.flatMap((device) =>
    device.links.flatMap((link): Finding[] => {
      if (link.reaction === null) return [];
      const { reaction } = linkBudget(link, controller.cycle / 1000, network.rate);
      if (reaction.worst * 1000 <= link.reaction) return [];
      const facts = { device: device.name, worst: Math.ceil(reaction.worst), wanted: link.reaction / 1000 };
      return [finding('limits.reaction', 'warning', { device: device.id }, facts)];
    }),
  );

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
