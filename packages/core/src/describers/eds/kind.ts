import { firstFree } from '../../cell/copies.js';
import { linkOver } from '../../cell/link.js';
import type { DescriberKind } from '../describer.js';
import { connectionImages } from './connectionImages.js';
import type { Eds } from './eds.js';
import { edsDescription } from './edsDescription.js';
import { deviceOf } from './edsDevice.js';
import { edsFacts } from './edsFacts.js';
import { parametersOf } from './edsParameters.js';
import { describerOf } from './edsOfDevice.js';
import { readEds } from './readEds.js';
import { writeEds } from './writeEds.js';

/** Electronic data sheets of CIP devices (Vol. 1, chapter 7). Whatever is neither XML nor ours is taken for one. */
export const edsKind: DescriberKind<Eds> = {
  source: 'eds',
  title: 'EDS',
  sniff: ({ root }) => root === undefined,
  read: ({ text }) => readEds(text),
  summary: ({ device }) => ({
    protocol: 'EtherNet/IP',
    maker: device.vendorName,
    vendor: device.vendor,
    product: device.productCode,
    title: device.productName,
    kind: device.deviceTypeName,
    orderNumbers: [device.catalog].filter(Boolean),
    revision: `${device.majorRevision}.${device.minorRevision}`,
  }),
  facts: edsFacts,
  counts: (describer) => {
    const { parameters, assemblies } = describer;
    // A parameter that is only a member of an assembly is a field there.
    const own = parametersOf(describer, () => 'counted').length;
    return [
      [own, 'parameters'],
      [parameters.length - own, 'members of assemblies'],
      [assemblies.length, 'assemblies'],
    ];
  },
  choices: (describer) =>
    connectionImages(describer).map(({ connection, command, feedback }) => ({
      id: connection.number,
      title: connection.name || `Connection${connection.number}`,
      command: { size: command.size, fields: command.fields.length },
      feedback: { size: feedback.size, fields: feedback.fields.length },
    })),
  describe: (describer, choice, newId) => {
    const chosen = connectionImages(describer).find((c) => c.connection.number === choice);
    return chosen && edsDescription(describer, chosen, newId);
  },
  device: (describer, choice, cell, place, newId) => {
    const start = { commandStart: firstFree(cell, 'command'), feedbackStart: firstFree(cell, 'feedback') };
    return deviceOf(describer, choice, { ...place, ...start }, newId);
  },
  writes: {
    title: 'EDS',
    says: 'its connections and every signal, for tools that read data sheets',
    extension: 'eds',
    mime: 'text/plain',
    can: ({ links }) => links.some((link) => linkOver(link, 'ethernet-ip')),
    text: (device) => writeEds(describerOf(device)),
  },
};
