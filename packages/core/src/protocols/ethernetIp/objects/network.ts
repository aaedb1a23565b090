import {
  bytes,
  encode,
  flag,
  list,
  paddedString,
  shortString,
  struct,
  u16,
  u32,
  u8,
} from '../../../bytes/struct.js';
import { classes } from '../messageRouter.js';
import { attribute, single, type CipClass } from '../objectModel.js';
import { encodePath, logical } from '../path.js';
import { generalStatus } from '../status.js';

/** Where an address comes from (CIP Vol. 2, 5-3.2.2.3, attribute 3, bits 0 to 3). */
export const startUp = { stored: 0, bootp: 1, dhcp: 2 } as const;

/**
 * The address settings of a device, attribute 5 (Vol. 2, 5-3.2.2.5); addresses as numbers, 16#C0A82815 = 192.168.40.21.
 */
export const interfaceConfiguration = struct({
  address: u32,
  mask: u32,
  gateway: u32,
  nameServer: u32,
  secondNameServer: u32,
  domain: paddedString,
});

export interface AddressSettings {
  address: number;
  mask: number;
  gateway: number;
  nameServer: number;
  secondNameServer: number;
  domain: string;
}

export interface TcpIpFacts {
  settings: AddressSettings;
  /** One of `startUp`. */
  startUp: number;
  hostName: string;
  /** s without traffic after which a TCP connection is closed; 0 never (attribute 13). */
  inactivityTimeout: number;
  /** The MAC address that was heard claiming the same address; undefined while there was none. */
  conflict: Uint8Array | undefined;
}

/** A settings change: what of the object is written. */
export type TcpIpChange = Partial<
  Pick<TcpIpFacts, 'settings' | 'startUp' | 'hostName' | 'inactivityTimeout'>
>;

/** The TCP/IP Interface object, class 16#F5 (Vol. 2, 5-3). */
export function tcpIpInterfaceObject(facts: () => TcpIpFacts, change: (part: TcpIpChange) => void): CipClass {
  return single(
    classes.tcpIpInterface,
    {
      attributes: {
        // Interface configuration status: 1 valid, from stored values or a server; bit 6: an address conflict was seen.
        1: attribute(u32, () => 1 | (facts().conflict ? 0x40 : 0)),
        // It can ask by BOOTP and DHCP, be set, and a change takes effect at the next start; it looks for conflicts.
        2: attribute(u32, () => 0x01 | 0x04 | 0x10 | 0x40 | 0x80),
        3: attribute(
          u32,
          () => facts().startUp,
          (method) => {
            if (method > startUp.dhcp) return generalStatus.invalidAttributeValue;
            change({ startUp: method });
            return generalStatus.success;
          },
        ),
        4: { read: () => physicalLink },
        5: attribute(
          interfaceConfiguration,
          () => facts().settings,
          (settings) => {
            // What a server gives cannot be set by hand (Vol. 2, 5-3.2.2.5).
            if (facts().startUp !== startUp.stored) return generalStatus.objectStateConflict;
            if (!hostOf(settings)) return generalStatus.invalidAttributeValue;
            change({ settings });
            return generalStatus.success;
          },
        ),
        6: attribute(
          paddedString,
          () => facts().hostName,
          (hostName) => {
            if (!/^[A-Za-z0-9-]{0,64}$/.test(hostName)) return generalStatus.invalidAttributeValue;
            change({ hostName });
            return generalStatus.success;
          },
        ),
        10: { ...attribute(flag, () => true), apart: true },
        11: {
          read: () => {
            const { conflict } = facts();
            return encode(lastConflict, {
              activity: conflict ? 3 : 0,
              mac: conflict ?? new Uint8Array(6),
              header: new Uint8Array(28),
            });
          },
          apart: true,
        },
        13: {
          ...attribute(
            u16,
            () => facts().inactivityTimeout,
            (inactivityTimeout) => {
              if (inactivityTimeout > 3600) return generalStatus.invalidAttributeValue;
              change({ inactivityTimeout });
              return generalStatus.success;
            },
          ),
          apart: true,
        },
      },
    },
    // Revision 4: attributes 10, 11 and 13 came with it.
    { attributes: { 1: attribute(u16, () => 4) } },
  );
}

/** Last conflict detected, attribute 11: what the device did, the other's MAC address, the ARP message. */
const lastConflict = struct({ activity: u8, mac: bytes(6), header: bytes(28) });

const linkPath = encodePath([logical('class', classes.ethernetLink), logical('instance', 1)]);
const physicalLink = Uint8Array.of(linkPath.length / 2, 0, ...linkPath);

/**
 * Whether address and mask can be those of a host: a whole mask, neither network nor broadcast, no loopback, no
 * multicast.
 */
function hostOf({ address, mask }: AddressSettings): boolean {
  const inverted = ~mask >>> 0;
  if (mask === 0 || (inverted & (inverted + 1)) !== 0) return false;
  const host = (address & inverted) >>> 0;
  const first = address >>> 24;
  return host !== 0 && host !== inverted && first !== 0 && first !== 127 && first < 224;
}

/** Interface counters, attribute 4 (Vol. 2, 5-4.3.2.4), in the order of the standard. */
export interface LinkCounters {
  inBytes: number;
  inPackets: number;
  outBytes: number;
  outPackets: number;
  /** Packets that arrived and were not taken. */
  inDiscards: number;
}

export interface EthernetLinkFacts {
  mac: Uint8Array;
  /** The cable is in. */
  linkUp: boolean;
  counters: LinkCounters;
}

/** The Ethernet Link object, class 16#F6 (Vol. 2, 5-4); one port, 100 Mbit/s, full duplex. */
export function ethernetLinkObject(facts: () => EthernetLinkFacts): CipClass {
  return single(
    classes.ethernetLink,
    {
      attributes: {
        1: attribute(u32, () => 100),
        // Link status, full duplex, negotiation successful (3 in bits 2 to 4).
        2: attribute(u32, () => (facts().linkUp ? 1 : 0) | 2 | (3 << 2)),
        3: attribute(bytes(6), () => facts().mac),
        4: attribute(list(u32, 11), () => {
          const { inBytes, inPackets, outBytes, outPackets, inDiscards } = facts().counters;
          return [inBytes, inPackets, 0, inDiscards, 0, 0, outBytes, outPackets, 0, 0, 0].map((n) => n >>> 0);
        }),
        5: attribute(list(u32, 12), () => []),
        6: attribute(struct({ control: u16, speed: u16 }), () => ({ control: 1, speed: 0 })),
        7: attribute(u8, () => 2),
        8: attribute(u8, () => (facts().linkUp ? 1 : 2)),
        9: attribute(u8, () => 1),
        10: attribute(shortString, () => 'Port 1'),
      },
    },
    { attributes: { 1: attribute(u16, () => 3) } },
  );
}
