import type { DescriberKind } from '../describer.js';
import type { Iodd } from './iodd.js';
import { ioddFacts } from './ioddFacts.js';
import { ioddOf } from './readIodd.js';

/** IO device descriptions (IO-Link, IODD 1.1). Their devices stand behind a master, so none is made of one alone. */
export const ioddKind: DescriberKind<Iodd> = {
  source: 'iodd',
  title: 'IODD',
  sniff: ({ root }) => root?.name === 'IODevice',
  read: ({ root, defects, language, languageFiles }) => ioddOf(root!, defects, language, languageFiles),
  summary: ({ device, document }) => ({
    protocol: 'IO-Link',
    maker: device.vendorName,
    vendor: device.vendorId,
    product: device.deviceId,
    title: device.name,
    kind: device.family,
    orderNumbers: device.variants.map((v) => v.productId),
    revision: document.version,
  }),
  facts: ioddFacts,
  counts: ({ processData, variables, events }) => [
    [processData.length, 'process data'],
    [variables.length, 'variables'],
    [events.length, 'events'],
  ],
  choices: () => [],
  describe: () => undefined,
  device: () => undefined,
};
