import { protocolById, protocols } from '../../protocols/list.js';
import type { DescriberKind } from '../describer.js';
import { factsOfDevice } from '../fact.js';
import {
  deviceOfTable,
  isTableDescriber,
  readTableDescriber,
  tableDescriberOf,
  writeTableDescriber,
  type TableDescriber,
} from './tableDescriber.js';

/** Describers of our own: a device as a person laid it out from the table of a manual. */
export const tableKind: DescriberKind<TableDescriber> = {
  source: 'table',
  title: 'table of a manual',
  sniff: ({ text, root }) => root === undefined && isTableDescriber(text),
  read: ({ text }) => readTableDescriber(text),
  summary: ({ device: { kind, maker, orderNumber, identity, links } }) => ({
    protocol: protocolById(links[0]?.protocol ?? protocols[0].id).title,
    maker,
    vendor: identity.vendor,
    product: identity.productCode,
    title: identity.productName || kind,
    kind,
    orderNumbers: [orderNumber].filter(Boolean),
    revision: `${identity.majorRevision}.${identity.minorRevision}`,
  }),
  facts: ({ device }) => factsOfDevice(device),
  counts: ({ device }) => [[device.links.length, 'links']],
  choices: ({ device }) =>
    device.links.slice(0, 1).map(({ command, feedback }) => ({
      id: 1,
      title: 'as it was laid out',
      command: { size: command.size, fields: command.fields.length },
      feedback: { size: feedback.size, fields: feedback.fields.length },
    })),
  describe: ({ device }) => device.description,
  device: (describer, _choice, cell, place, newId) => deviceOfTable(describer, cell, place, newId),
  writes: {
    title: 'describer',
    says: 'all that was laid out, as JSON that Fadenkreuz reads again',
    extension: 'describer.json',
    mime: 'application/json',
    can: () => true,
    text: (device) => writeTableDescriber(tableDescriberOf(device)),
  },
};
