import type { DescriberKind } from '../describer.js';
import type { Gsdml } from './gsdml.js';
import { gsdmlFacts } from './gsdmlFacts.js';
import { gsdmlOf } from './readGsdml.js';

/**
 * GSDML files of PROFINET devices. A device is plugged together first (gsdmlDevice.ts), so none is made of a file
 * alone.
 */
export const gsdmlKind: DescriberKind<Gsdml> = {
  source: 'gsdml',
  title: 'GSDML',
  sniff: ({ root }) => root?.name === 'ISO15745Profile',
  read: ({ root, defects, language }) => gsdmlOf(root!, defects, language),
  summary: ({ device, accessPoints }) => {
    const [first] = accessPoints;
    return {
      protocol: 'PROFINET',
      maker: device.vendorName,
      vendor: device.vendorId,
      product: device.deviceId,
      title: first?.name ?? device.text,
      kind: [device.mainFamily, device.productFamily].filter(Boolean).join(', '),
      orderNumbers: accessPoints.map((a) => a.orderNumber).filter(Boolean),
      revision: first?.softwareRelease ?? '',
    };
  },
  facts: gsdmlFacts,
  counts: ({ accessPoints, modules }) => [
    [accessPoints.length, 'access points'],
    [modules.length, 'modules'],
  ],
  choices: () => [],
  describe: () => undefined,
  device: () => undefined,
};
