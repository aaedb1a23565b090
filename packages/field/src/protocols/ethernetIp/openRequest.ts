import type { Device, EthernetIpLink, Finding, Image } from '@fadenkreuz/core';
import { finding, sizeReading } from '@fadenkreuz/core';
import {
  class1,
  classes,
  encodePath,
  extendedStatus,
  hexCode,
  logical,
  maxSmallSize,
  multiplierCode,
  statusText,
  type ForwardOpen,
  type RouterResponse,
  type Segment,
  wrappedSize,
} from '@fadenkreuz/core/ethernet-ip';

export interface ConnectionName {
  connectionSerial: number;
  originatorVendor: number;
  originatorSerial: number;
}

/** 10 × 2^10 ms… of the unconnected request: tick 2^3 ms × 250 = 2 s, the limit of the explicit client. */
const priorityTick = 3;
const timeoutTicks = 250;
const scheduled = 2;

/** The path of a cyclic connection: key, configuration, command point, feedback point, data. */
export function connectionPath({ identity }: Device, link: EthernetIpLink): Uint8Array {
  const segments: Segment[] = [
    {
      segment: 'key',
      key: {
        vendor: identity.vendor,
        deviceType: identity.deviceType,
        productCode: identity.productCode,
        majorRevision: identity.majorRevision,
        minorRevision: identity.minorRevision,
      },
    },
    logical('class', classes.assembly),
    logical('instance', link.configuration.instance),
    logical('connectionPoint', link.command.instance),
    logical('connectionPoint', link.feedback.instance),
  ];
  const data = Uint8Array.from(Buffer.from(link.configuration.data, 'hex'));
  if (data.length) segments.push({ segment: 'data', data });
  return encodePath(segments);
}

/** The body of Forward_Open for a link, and whether it needs the large form. */
export function openRequest(
  device: Device,
  link: EthernetIpLink,
  name: ConnectionName,
  toOriginatorId: number,
): { large: boolean; body: ForwardOpen } {
  const direction = (size: number, type: 'point-to-point' | 'multicast' = 'point-to-point') => ({
    type,
    priority: scheduled,
    variable: false,
    redundantOwner: false,
    size,
  });
  const format = link.connection === 'exclusive-owner' ? link.commandFormat : 'heartbeat';
  const toTarget = direction(wrappedSize(format, link.command.size));
  const toOriginator = direction(wrappedSize(link.feedbackFormat, link.feedback.size), link.toController);
  return {
    large: Math.max(toTarget.size, toOriginator.size) > maxSmallSize,
    body: {
      priorityTick,
      timeoutTicks,
      toTargetId: 0,
      toOriginatorId,
      ...name,
      timeoutMultiplier: multiplierCode(link.timeoutMultiplier),
      reserved: new Uint8Array(3),
      toTargetRpi: link.commandRpi,
      toTarget,
      toOriginatorRpi: link.feedbackRpi,
      toOriginator,
      transport: class1(link.trigger),
      path: connectionPath(device, link),
    },
  };
}

/** An image that the device has in another size, and the edit that takes it. */
export const sizeRefused = (
  device: Device,
  { id, direction, size }: Pick<Image, 'id' | 'direction' | 'size'>,
  actual: number,
  reading: string,
): Finding =>
  finding(
    'link.sizeRefused',
    'error',
    { device: device.id, image: id },
    { device: device.name, side: direction, planned: size, actual, reading },
    {
      title: `Take ${actual} bytes for the ${direction} image`,
      edit: { edit: 'image.set', image: id, set: { size: actual } },
    },
  );

/** What a refused Forward_Open means: the codes of the standard, and for a wrong size the unit that was mixed up. */
export function refusalFinding(
  device: Device,
  link: EthernetIpLink,
  { status, extended }: RouterResponse,
): Finding {
  const place = { device: device.id };
  const [code, actual] = extended;
  const side =
    code === extendedStatus.invalidToTargetSize
      ? link.command
      : code === extendedStatus.invalidToOriginatorSize
        ? link.feedback
        : undefined;
  if (side && actual !== undefined) {
    const reading =
      `General status ${hexCode(status, 2)}, extended status ${hexCode(code!, 4)}. ` +
      (sizeReading(side.size, actual)?.reading ?? '');
    return sizeRefused(device, side, actual, reading.trim());
  }
  const { means, cure } = statusText(status, extended);
  return finding('link.refused', 'error', place, {
    device: device.name,
    general: hexCode(status, 2),
    extended: code === undefined ? 'none' : hexCode(code, 4),
    meaning: means,
    cure,
  });
}
