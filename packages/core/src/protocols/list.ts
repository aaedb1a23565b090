import { Problem } from '../messages/problem.js';
import { ethernetIp } from './ethernetIp/protocol.js';
import { modbusTcp } from './modbusTcp/protocol.js';
import { profinet } from './profinet/protocol.js';
import { sealed, type AnyProtocol } from './protocol.js';

/** Every protocol that a link can have, in the order in which they are offered. */
export const protocols = [ethernetIp, modbusTcp, profinet] as const;

const byId = new Map<string, AnyProtocol>(protocols.map((p) => [p.id, sealed(p as never)]));

/** The protocol with this id. Throws `protocol.unknown`. */
export function protocolById(id: string): AnyProtocol {
  const protocol = byId.get(id);
  if (!protocol) throw new Problem('protocol.unknown', { protocol: id, known: [...byId.keys()].join(', ') });
  return protocol;
}

/** The protocol of a link or of what a device offers. */
export const protocolOf = ({ protocol }: { protocol: string }): AnyProtocol => protocolById(protocol);
