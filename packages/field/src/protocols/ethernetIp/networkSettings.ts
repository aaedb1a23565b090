import type { AddressSource } from '@fadenkreuz/core';
import {
  classes,
  decode,
  encapsulation as enip,
  interfaceConfiguration,
  logical,
  services,
  startUp,
  u32,
} from '@fadenkreuz/core/ethernet-ip';
import { macText } from '@fadenkreuz/core/bootp';
import { ExplicitClient, type ExplicitClientOptions } from './explicitClient.js';

/** What a device says of its own network settings; null is what it does not say. */
export interface NetworkSettings {
  mac: string | null;
  addressFrom: AddressSource | null;
  mask: string | null;
  gateway: string | null;
}

export const attributePath = (classId: number, attribute: number) => [
  logical('class', classId),
  logical('instance', 1),
  logical('attribute', attribute),
];

/** How a device says where its address comes from: the low four bits of attribute 3 (CIP Vol. 2, 5-3.2.2.3). */
const sources: Record<number, AddressSource> = {
  [startUp.stored]: 'stored',
  [startUp.bootp]: 'bootp',
  [startUp.dhcp]: 'dhcp',
};

/**
 * Reads MAC address and address settings (Ethernet Link attribute 3, TCP/IP Interface attributes 3 and 5). Throws when
 * it cannot be reached.
 */
export async function readNetworkSettings(options: ExplicitClientOptions): Promise<NetworkSettings> {
  const client = await ExplicitClient.open(options);
  try {
    const get = async (classId: number, attribute: number) => {
      const answer = await client.request({
        service: services.getAttributeSingle,
        path: attributePath(classId, attribute),
        data: new Uint8Array(),
      });
      return answer.status === 0 ? answer.data.slice() : undefined;
    };
    const mac = await get(classes.ethernetLink, 3);
    const method = await get(classes.tcpIpInterface, 3);
    const settings = await get(classes.tcpIpInterface, 5);
    const own = settings && decode(interfaceConfiguration, settings, 'interface configuration');
    return {
      mac: mac?.length === 6 ? macText(mac) : null,
      addressFrom: method ? (sources[decode(u32, method, 'start-up method') & 0xf] ?? null) : null,
      mask: own ? enip.dottedAddress(own.mask) : null,
      gateway: own?.gateway ? enip.dottedAddress(own.gateway) : null,
    };
  } finally {
    await client.close();
  }
}
