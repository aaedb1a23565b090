import { subnet } from '../../entries/entries.js';
import { movedTo } from '../../bytes/subnet.js';
import { editKind } from './editKind.js';

/**
 * The cell in another subnet: controller, gateway, ranges and devices keep their host numbers; what stands in another
 * subnet stays. Throws `network.tooSmall`.
 */
export const networkMove = editKind(
  'network.move',
  { subnet },
  {
    apply: (cell, { subnet: to }) => {
      const { network } = cell;
      const moved = (address: string) => movedTo(address, network.subnet, to);
      return {
        ...cell,
        controller: { ...cell.controller, address: moved(cell.controller.address) },
        network: {
          ...network,
          subnet: to,
          gateway: network.gateway === null ? null : moved(network.gateway),
          ranges: network.ranges.map((r) => ({ ...r, first: moved(r.first), last: moved(r.last) })),
        },
        devices: cell.devices.map((device) => ({ ...device, address: moved(device.address) })),
      };
    },
    title: (_cell, { subnet: to }) => `move the cell to ${to}`,
  },
);
