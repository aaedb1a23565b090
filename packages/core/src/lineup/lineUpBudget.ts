import type { Cell, Device } from '../cell/model.js';
import { linkBudget, type LinkBudget } from '../protocols/linkBudget.js';

/** A time, and the device that it is due to. */
export interface TimeOfDevice {
  device: string;
  ms: number;
}

/** What some devices together ask of the controller and of its port. */
export interface LineUpBudget {
  connections: number;
  /** Both directions. */
  packetsPerSecond: number;
  /** Shares of the port, from the controller and to it. */
  command: number;
  feedback: number;
  /** The slowest worst reaction of all links, and the link whose loss is noticed last; undefined without links. */
  slowest: TimeOfDevice | undefined;
  noticedLast: TimeOfDevice | undefined;
}

/** Adds up the links of these devices, all of the cell where nothing else is said. */
export function lineUpBudget(
  { controller, network, devices }: Cell,
  of: readonly Device[] = devices,
): LineUpBudget {
  const budgets = of.flatMap(({ id, links }) =>
    links.map((link) => ({ device: id, ...linkBudget(link, controller.cycle / 1000, network.rate) })),
  );
  const sum = (take: (budget: LinkBudget) => number) => budgets.reduce((n, b) => n + take(b), 0);
  const longest = (take: (budget: LinkBudget) => number) =>
    budgets
      .map((b): TimeOfDevice => ({ device: b.device, ms: take(b) }))
      .reduce<TimeOfDevice | undefined>(
        (maximum, t) => (maximum && maximum.ms >= t.ms ? maximum : t),
        undefined,
      );
  return {
    connections: budgets.length,
    packetsPerSecond: sum((b) => b.packetsPerSecond),
    command: sum((b) => b.command.share),
    feedback: sum((b) => b.feedback.share),
    slowest: longest((b) => b.reaction.worst),
    noticedLast: longest((b) => b.lossNoticed),
  };
}
