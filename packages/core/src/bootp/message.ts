import { bytes, struct, u16be, u32be, u8, type Part } from '../bytes/struct.js';
import { addressNumber, dottedAddress } from '../bytes/ipv4.js';

/** BOOTP (RFC 951, 1497) and DHCP (RFC 2131, 2132): how a device without an address asks for one. */

/** UDP ports of server and client (IANA: bootps, bootpc). */
export const serverPort = 67;
export const clientPort = 68;

/** RFC 951, 3: who asks, who answers. */
export const ops = { request: 1, reply: 2 } as const;

/** DHCP message types, RFC 2132, 9.6. */
export const dhcpTypes = {
  discover: 1,
  offer: 2,
  request: 3,
  decline: 4,
  ack: 5,
  nak: 6,
  release: 7,
  inform: 8,
} as const;

/** Options, RFC 2132. */
export const optionCodes = {
  pad: 0,
  mask: 1,
  router: 3,
  hostName: 12,
  requestedAddress: 50,
  leaseTime: 51,
  messageType: 53,
  server: 54,
  vendorClass: 60,
  end: 255,
} as const;

/** What an infinite lease is written as (RFC 2131, 3.3). */
export const forever = 0xffff_ffff;

const cookie = 0x6382_5363;
/** The vendor area of BOOTP has 64 bytes; a message is never shorter (RFC 951, 3; RFC 1542, 2.1). */
const leastVendorBytes = 64;

export interface Option {
  code: number;
  data: Uint8Array;
}

const options: Part<Option[]> = {
  read: (r) => {
    // A BOOTP message without the cookie has options that nobody can read.
    if (r.left < 4 || r.u32be() !== cookie) return [];
    const list: Option[] = [];
    while (r.left > 0) {
      const code = r.u8();
      if (code === optionCodes.end) break;
      if (code !== optionCodes.pad) list.push({ code, data: r.take(r.u8()).slice() });
    }
    return list;
  },
  write: (w, list) => {
    const from = w.written;
    w.u32be(cookie);
    for (const { code, data } of list) {
      w.u8(code);
      w.u8(data.length);
      w.put(data);
    }
    w.u8(optionCodes.end);
    while (w.written - from < leastVendorBytes) w.u8(optionCodes.pad);
  },
};

/** A message, field by field as in RFC 951, 3; throws `bytes.short`. */
export const bootpMessage = struct({
  op: u8,
  hardwareType: u8,
  hardwareLength: u8,
  hops: u8,
  transaction: u32be,
  seconds: u16be,
  /** The highest bit asks for an answer to everybody (RFC 2131, 2). */
  flags: u16be,
  clientAddress: u32be,
  yourAddress: u32be,
  serverAddress: u32be,
  relayAddress: u32be,
  hardwareAddress: bytes(16),
  serverName: bytes(64),
  file: bytes(128),
  options,
});
export type BootpMessage = ReturnType<(typeof bootpMessage)['read']>;

export const broadcastFlag = 0x8000;

/** A MAC address as six bytes written as 02-FA-12-34-56-78. */
export const macText = (mac: Uint8Array): string =>
  [...mac.subarray(0, 6)].map((b) => b.toString(16).toUpperCase().padStart(2, '0')).join('-');

export const option = (message: BootpMessage, code: number): Uint8Array | undefined =>
  message.options.find((o) => o.code === code)?.data;

/** The DHCP message type; undefined for plain BOOTP. */
export const dhcpType = (message: BootpMessage): number | undefined =>
  option(message, optionCodes.messageType)?.[0];

/** The address that an option holds, as four decimal numbers. */
export function addressOption(message: BootpMessage, code: number): string | undefined {
  const data = option(message, code);
  return data && data.length >= 4
    ? dottedAddress(((data[0]! << 24) | (data[1]! << 16) | (data[2]! << 8) | data[3]!) >>> 0)
    : undefined;
}

/** The text of an option, such as the vendor class identifier (RFC 2132, 9.13); empty where it is not there. */
export function textOption(message: BootpMessage, code: number): string {
  const text = new TextDecoder().decode(option(message, code) ?? new Uint8Array());
  return text.replace(/\p{C}/gu, '').trim().slice(0, 80);
}

export const addressBytes = (dotted: string): Uint8Array => numberBytes(addressNumber(dotted));
export const numberBytes = (number: number): Uint8Array =>
  Uint8Array.of(number >>> 24, (number >>> 16) & 0xff, (number >>> 8) & 0xff, number & 0xff);
