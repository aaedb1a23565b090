import { Problem } from '../messages/problem.js';
import { Defects } from './defects.js';
import type { Described, Describer } from './describer.js';
import { readEds } from './eds/readEds.js';
import { fileText, type Decoder } from './fileText.js';
import type { Gsdml } from './gsdml/gsdml.js';
import { gsdmlOf } from './gsdml/readGsdml.js';
import type { Iodd } from './iodd/iodd.js';
import { ioddOf } from './iodd/readIodd.js';
import { filesOf, isPackage } from './package.js';
import { isTableDescriber, readTableDescriber, type TableDescriber } from './table/tableDescriber.js';
import { readXml } from './xml.js';

/** What a description file can be. */
export type AnyDescriber = Describer | Gsdml | Iodd | TableDescriber;

/** Bytes of a file that is taken: the largest format, each character in four bytes. */
export const maxDescriberBytes = 48_000_000;

/**
 * What a description file says, whatever kind it is: EDS, GSDML, IODD, one of the last two zipped, or a describer of our own. Told apart
 * by what it holds, for names of files lie. Throws `describer.tooLarge`, `describer.noKind` and what the readers throw.
 */
export function readDescriber(
  bytes: Uint8Array,
  TextDecoder: Decoder,
  language?: string,
): Described<AnyDescriber> {
  if (bytes.length > maxDescriberBytes)
    throw new Problem('describer.tooLarge', { what: 'bytes', limit: maxDescriberBytes });
  if (isPackage(bytes)) return readPackage(bytes, TextDecoder, language);
  const text = fileText(bytes, TextDecoder);
  const start = /^[\s\ufeff]*(\S)/.exec(text)?.[1];
  if (start === '<') return readXmlDescriber(text, [], language);
  if (start === '{' && isTableDescriber(text)) return readTableDescriber(text);
  return readEds(text);
}

function readXmlDescriber(text: string, languageFiles: string[], language?: string): Described<AnyDescriber> {
  const defects = new Defects();
  const root = readXml(text, defects);
  if (root.name === 'IODevice') return ioddOf(root, defects, language, languageFiles);
  if (root.name === 'ISO15745Profile') return gsdmlOf(root, defects, language);
  throw new Problem('describer.noKind', { found: root.name.slice(0, 60) });
}

/** The one describer of a package, with the language files beside it. */
function readPackage(bytes: Uint8Array, TextDecoder: Decoder, language?: string): Described<AnyDescriber> {
  const texts = [...filesOf(bytes).values()].map((file) => fileText(file, TextDecoder));
  const isLanguage = (text: string) => /<(\w+:)?ExternalTextDocument[\s>]/.test(text.slice(0, 4000));
  const main = texts.find((text) => /<(\w+:)?(IODevice|ISO15745Profile)[\s>]/.test(text.slice(0, 4000)));
  if (main === undefined) throw new Problem('package.noDescriber', {});
  return readXmlDescriber(main, texts.filter(isLanguage), language);
}

const protocolTitles = {
  'ethernet-ip': 'EtherNet/IP',
  'modbus-tcp': 'Modbus TCP',
  profinet: 'PROFINET',
} as const;

/** What a library lists of a describer. */
export interface DescriberSummary {
  source: AnyDescriber['source'];
  protocol: 'EtherNet/IP' | 'Modbus TCP' | 'PROFINET' | 'IO-Link';
  maker: string;
  vendor: number;
  /** The number by which the maker tells products apart: product code, or device id. */
  product: number;
  title: string;
  kind: string;
  orderNumbers: string[];
  /** Of the device, or of the file where the device has none. */
  revision: string;
}

export function summaryOf(describer: AnyDescriber): DescriberSummary {
  const { source } = describer;
  if (source === 'iodd') {
    const { device, document } = describer;
    return {
      source,
      protocol: 'IO-Link',
      maker: device.vendorName,
      vendor: device.vendorId,
      product: device.deviceId,
      title: device.name,
      kind: device.family,
      orderNumbers: device.variants.map((v) => v.productId),
      revision: document.version,
    };
  }
  if (source === 'gsdml') {
    const { device, accessPoints } = describer;
    const [first] = accessPoints;
    return {
      source,
      protocol: 'PROFINET',
      maker: device.vendorName,
      vendor: device.vendorId,
      product: device.deviceId,
      title: first?.name ?? device.text,
      kind: [device.mainFamily, device.productFamily].filter(Boolean).join(', '),
      orderNumbers: accessPoints.map((a) => a.orderNumber).filter(Boolean),
      revision: first?.softwareRelease ?? '',
    };
  }
  if (source === 'table') {
    const { kind, maker, orderNumber, identity, links } = describer.device;
    return {
      source,
      protocol: protocolTitles[links[0]?.protocol ?? 'ethernet-ip'],
      maker,
      vendor: identity.vendor,
      product: identity.productCode,
      title: identity.productName || kind,
      kind,
      orderNumbers: [orderNumber].filter(Boolean),
      revision: `${identity.majorRevision}.${identity.minorRevision}`,
    };
  }
  const { device } = describer;
  return {
    source,
    protocol: 'EtherNet/IP',
    maker: device.vendorName,
    vendor: device.vendor,
    product: device.productCode,
    title: device.productName,
    kind: device.deviceTypeName,
    orderNumbers: [device.catalog].filter(Boolean),
    revision: `${device.majorRevision}.${device.minorRevision}`,
  };
}
