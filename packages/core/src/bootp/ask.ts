import {
  addressOption,
  broadcastFlag,
  dhcpType,
  dhcpTypes,
  ops,
  optionCodes,
  addressBytes,
  type BootpMessage,
} from './message.js';
import { dottedAddress } from '../bytes/ipv4.js';

/** How far a device has come with asking: nothing heard yet, or a server has offered something. */
export interface Asking {
  method: 'bootp' | 'dhcp';
  mac: Uint8Array;
  transaction: number;
  /** What it says that it is: the vendor class identifier (RFC 2132, 9.13). */
  vendorClass: string;
  offer: { server: string; address: string } | undefined;
}

/** What a device was given. */
export interface Given {
  address: string;
  mask: string;
  gateway: string | null;
}

/** The message that it sends now: a request for anything, or for what was offered. */
export function askMessage({ method, mac, transaction, vendorClass, offer }: Asking): BootpMessage {
  const type = (number: number) => ({ code: optionCodes.messageType, data: Uint8Array.of(number) });
  const is = vendorClass
    ? [{ code: optionCodes.vendorClass, data: new TextEncoder().encode(vendorClass).slice(0, 255) }]
    : [];
  const options =
    method === 'bootp'
      ? []
      : offer
        ? [
            type(dhcpTypes.request),
            ...is,
            { code: optionCodes.requestedAddress, data: addressBytes(offer.address) },
            { code: optionCodes.server, data: addressBytes(offer.server) },
          ]
        : [type(dhcpTypes.discover), ...is];
  return {
    op: ops.request,
    // Ethernet.
    hardwareType: 1,
    hardwareLength: 6,
    hops: 0,
    transaction,
    seconds: 0,
    flags: broadcastFlag,
    clientAddress: 0,
    yourAddress: 0,
    serverAddress: 0,
    relayAddress: 0,
    hardwareAddress: mac,
    serverName: new Uint8Array(),
    file: new Uint8Array(),
    options,
  };
}

/** What an answer makes of it: the next state, and the address once it is given. Answers to others change nothing. */
export function hearAnswer(asking: Asking, answer: BootpMessage): { asking: Asking; given?: Given } {
  const own =
    answer.op === ops.reply &&
    answer.transaction === asking.transaction &&
    asking.mac.every((byte, i) => answer.hardwareAddress[i] === byte);
  if (!own) return { asking };
  const type = dhcpType(answer);
  const address = dottedAddress(answer.yourAddress);
  const server = addressOption(answer, optionCodes.server);
  const given = {
    address,
    mask: addressOption(answer, optionCodes.mask) ?? '255.255.255.0',
    gateway: addressOption(answer, optionCodes.router) ?? null,
  };
  if (asking.method === 'bootp') return type === undefined ? { asking, given } : { asking };
  if (type === dhcpTypes.offer && !asking.offer && server)
    return { asking: { ...asking, offer: { server, address } } };
  if (type === dhcpTypes.ack && asking.offer) return { asking, given };
  // Refused: it starts over.
  if (type === dhcpTypes.nak) return { asking: { ...asking, offer: undefined } };
  return { asking };
}
