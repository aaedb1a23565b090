import { addressNumber } from '../bytes/ipv4.js';
import {
  addressBytes,
  addressOption,
  broadcastFlag,
  dhcpType,
  dhcpTypes,
  forever,
  macText,
  numberBytes,
  ops,
  optionCodes,
  type BootpMessage,
} from './message.js';

/** What one device is to get. */
export interface Assignment {
  /** 02-FA-12-34-56-78 */
  mac: string;
  address: string;
  mask: string;
  gateway: string | null;
}

/**
 * The answer to a request, for the devices that were chosen and for nobody else; undefined when there is none. BOOTP
 * gets its reply at once (RFC 951, 7.3), DHCP an offer, then an acknowledgement, or a refusal of another address (RFC
 * 2131, 4.3).
 */
export function giveAddress(
  asked: BootpMessage,
  assignments: readonly Assignment[],
  server: string,
): BootpMessage | undefined {
  if (asked.op !== ops.request || asked.hardwareLength !== 6) return undefined;
  const mac = macText(asked.hardwareAddress);
  const assigned = assignments.find((g) => g.mac === mac);
  if (!assigned) return undefined;
  const type = dhcpType(asked);
  if (type === undefined) return reply(asked, assigned, server, undefined);
  if (type === dhcpTypes.discover) return reply(asked, assigned, server, dhcpTypes.offer);
  if (type !== dhcpTypes.request) return undefined;
  const chosen = addressOption(asked, optionCodes.server);
  // It took the offer of another server.
  if (chosen !== undefined && chosen !== server) return undefined;
  const wanted = addressOption(asked, optionCodes.requestedAddress);
  const held = asked.clientAddress || addressNumber(wanted ?? assigned.address);
  const right = held === addressNumber(assigned.address);
  return reply(asked, assigned, server, right ? dhcpTypes.ack : dhcpTypes.nak);
}

function reply(
  asked: BootpMessage,
  { address, mask, gateway }: Assignment,
  server: string,
  type: number | undefined,
): BootpMessage {
  const refused = type === dhcpTypes.nak;
  const settings = refused
    ? []
    : [
        { code: optionCodes.mask, data: addressBytes(mask) },
        ...(gateway === null ? [] : [{ code: optionCodes.router, data: addressBytes(gateway) }]),
      ];
  return {
    ...asked,
    op: ops.reply,
    hops: 0,
    seconds: 0,
    flags: asked.flags & broadcastFlag,
    clientAddress: 0,
    yourAddress: refused ? 0 : addressNumber(address),
    serverAddress: addressNumber(server),
    options:
      type === undefined
        ? settings
        : [
            { code: optionCodes.messageType, data: Uint8Array.of(type) },
            { code: optionCodes.server, data: addressBytes(server) },
            ...(refused ? [] : [{ code: optionCodes.leaseTime, data: numberBytes(forever) }]),
            ...settings,
          ],
  };
}
