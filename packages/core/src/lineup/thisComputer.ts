import ipaddr from 'ipaddr.js';
import type { Cell } from '../cell/model.js';
import { freeAddress, maskOf } from './addressPlan.js';

/** An IPv4 address that this computer has; `subnet` is the address with its prefix. */
export interface OwnAddress {
  name: string;
  address: string;
  subnet: string;
}

/** Where this computer stands towards one subnet of a cell. */
export interface Standing {
  subnet: string;
  /** The adapter that stands in it; undefined when none does. */
  adapter: OwnAddress | undefined;
  /** Somebody else of the plan has this computer's address. */
  clash: string | undefined;
  /** What would have to be set, where no adapter stands there: a free address and the mask. */
  set: { address: string; mask: string } | undefined;
}

/** For each subnet of a cell the adapter of this computer that stands in it, or what to set on one. */
export function computerStanding(cell: Cell, own: readonly OwnAddress[]): Standing[] {
  const parties = [cell.controller, ...cell.devices];
  return [cell.network.subnet, ...cell.network.further].map((subnet) => {
    const adapter = own.find(({ address }) =>
      ipaddr.IPv4.parse(address).match(ipaddr.IPv4.parseCIDR(subnet)),
    );
    const clash = adapter && parties.find((p) => p.address === adapter.address)?.name;
    const free = freeAddress({ ...cell, network: { ...cell.network, subnet } });
    return {
      subnet,
      adapter,
      clash,
      set: (adapter && !clash) || free === '' ? undefined : { address: free, mask: maskOf(subnet) },
    };
  });
}
