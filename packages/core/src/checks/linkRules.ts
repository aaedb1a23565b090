import type { Device } from '../cell/model.js';
import type { Link } from '../cell/link.js';
import { lossBy } from '../devices/description.js';
import { finding, type Finding } from '../messages/finding.js';
import { protocolById, protocolOf } from '../protocols/list.js';
import { setLink } from '../protocols/protocol.js';
import { eachDevice } from './rule.js';

const eachLink = (judge: (device: Device, link: Link) => Finding[]) =>
  eachDevice((device) => device.links.flatMap((link) => judge(device, link)));

/** The device is described to be reached over another protocol. */
export const protocolAgainstOffer = eachLink((device, link) => {
  const { offer } = device.description;
  if (!offer || offer.protocol === link.protocol) return [];
  const facts = {
    device: device.name,
    planned: protocolOf(link).title,
    speaks: protocolById(offer.protocol).title,
  };
  return [finding('link.otherProtocol', 'error', { device: device.id }, facts)];
});

/**
 * What the device does on loss is decided by how it is asked, or by its configuration data; the plan says otherwise.
 */
export const lossAgainstLink = eachLink((device, link) => {
  const decided = lossOf(device, link);
  if (!decided || decided.does === link.onLoss) return [];
  const facts = { device: device.name, planned: link.onLoss, ...decided };
  return [
    finding('link.lossContradicts', 'warning', { device: device.id }, facts, {
      title: `Say that it ${decided.does === 'drop' ? 'drops its outputs' : 'holds the last state'}`,
      edit: setLink<Link>(link, { onLoss: decided.does }),
    }),
  ];
});

function lossOf({ description }: Device, link: Link): { does: 'drop' | 'hold'; why: string } | undefined {
  const { connections, configuration } = protocolOf(link);
  const { onLoss } = connections[link.connection]!;
  if (onLoss) return onLoss;
  const does = lossBy(description.loss, configuration?.(link) ?? new Uint8Array());
  const why =
    description.loss?.by === 'configuration' ? 'its configuration data say so' : 'its description says so';
  return does && { does, why };
}

/** The rules of each link's own protocol. */
export const rulesOfProtocols = eachLink((device, link) => {
  const { offer } = device.description;
  const place = { device, link, offer: offer?.protocol === link.protocol ? offer : null };
  return protocolOf(link).rules.flatMap((rule) => rule(place));
});
