import type { Link, LinkOf } from '@fadenkreuz/core';
import { ethernetIpForms } from './ethernetIp/forms.js';
import { modbusTcpForms } from './modbusTcp/forms.js';
import { profinetForms } from './profinet/forms.js';
import type { ProtocolForms } from './protocolForms.js';

/** The forms of every protocol. */
const forms: { [P in Link['protocol']]: ProtocolForms<LinkOf<P>> } = {
  'ethernet-ip': ethernetIpForms,
  'modbus-tcp': modbusTcpForms,
  profinet: profinetForms,
};

export const formsOf = (protocol: Link['protocol']): ProtocolForms => forms[protocol] as ProtocolForms;

/** What devices with these links go by on the wire, beside their addresses; each once. */
export const namesOnTheWire = (links: readonly Link[]) => [
  ...new Set(links.flatMap(({ protocol }) => formsOf(protocol).nameOnTheWire ?? [])),
];

/** Protocols by which a device can be added by hand; the first one stands in the form. */
export const byHandProtocols = (Object.keys(forms) as Link['protocol'][]).filter((id) => formsOf(id).byHand);
