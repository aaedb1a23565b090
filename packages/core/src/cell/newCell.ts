import { dottedAddress } from '../bytes/ipv4.js';
import { parseInput } from '../entries/parse.js';
import { hostsOf } from '../bytes/subnet.js';
import { Cell } from './model.js';
import { Network } from './network.js';

/** What is asked of a new cell. */
export interface NewCell {
  name: string;
  /** In CIDR notation, such as 192.168.40.0/24. */
  subnet: string;
  /** Name of the controller. */
  controller: string;
}

/** A controller stands so far behind the first host: low addresses are the network's (common practice, no source). */
const lowAddresses = 9;

/**
 * A cell without devices; its controller stands at the tenth host of the subnet, or at the last of a small one. Throws
 * `input.invalid`.
 */
export function newCell(id: string, { name, subnet, controller }: NewCell): Cell {
  const network = parseInput(Network, { subnet }, 'network');
  const { first, last } = hostsOf(network.subnet);
  const address = dottedAddress(Math.min(first + lowAddresses, last));
  const head = { id, name, controller: { name: controller, address, elementBits: 16 } };
  return parseInput(Cell, { ...head, network, devices: [] }, 'cell');
}
