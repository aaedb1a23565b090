import type { Described, KeptSection } from '../shared/described.js';
import type {
  AssemblyMember,
  ConnectionDirection,
  DescribedAssembly,
  DescribedConnection,
  DescribedGroup,
  DescribedParameter,
  DescribedPort,
  Eds,
  Scaling,
} from './eds.js';
import { Defects } from '../shared/defects.js';
import { plainScaling } from './scaling.js';
import { doubtful } from './doubts.js';
import { isSignedCode, textPrefixOf } from './dataTypes.js';
import { Part, type Row } from './entries.js';
import { readSections, type Entry } from './grammar.js';

/** Section names (CIP Vol. 1, 7-3.6, from memory); letters large or small, for files write both. */
const known = [
  'file',
  'device',
  'device classification',
  'params',
  'groups',
  'assembly',
  'connection manager',
  'port',
  'capacity',
] as const;
type Known = (typeof known)[number];

/**
 * An electronic data sheet as a describer, with what is wrong with the file. Throws `describer.tooLarge` and
 * `eds.none`. Sections and entries that are not understood are kept as they were written.
 */
export function readEds(text: string): Described<Eds> {
  const defects = new Defects();
  const sections = readSections(withNewlines(text.replace(/^\ufeff/, '')), defects);
  const kept: KeptSection[] = [];
  const parts = new Map<Known, Part>();
  for (const section of sections) {
    const name = section.name.toLowerCase() as Known;
    const before = parts.get(name);
    if (!known.includes(name)) keep(kept, section.name, section.entries);
    else if (before) {
      defects.add(section.line, 'described.twice', { what: `[${section.name}]`, first: before.line });
      for (const entry of section.entries) before.take(entry);
    } else parts.set(name, new Part(section, defects));
  }
  const part = (name: Known): Part => parts.get(name) ?? new Part({ name, line: 0, entries: [] }, defects);
  for (const name of ['file', 'device'] as const)
    if (!parts.has(name))
      defects.add(1, 'described.missing', { what: `section [${name === 'file' ? 'File' : 'Device'}]` });

  const describer: Eds = {
    source: 'eds',
    file: fileOf(part('file')),
    device: deviceOf(part('device'), part('device classification')),
    parameters: parametersOf(part('params')),
    groups: groupsOf(part('groups')),
    assemblies: assembliesOf(part('assembly')),
    connections: connectionsOf(part('connection manager')),
    ports: portsOf(part('port')),
    capacity: capacityOf(part('capacity')),
    kept,
  };
  for (const each of parts.values()) keep(kept, each.name, each.untaken());
  doubtful(describer, parts, defects);
  return { describer, defects: defects.list };
}

/** Lines that end as they do everywhere else; files of other systems have carriage returns, some nothing but these. */
const withNewlines = (text: string) => (text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text);

function keep(kept: KeptSection[], name: string, entries: readonly Entry[]): void {
  if (entries.length === 0 && known.includes(name.toLowerCase() as Known)) return;
  kept.push({
    name,
    entries: entries.map(({ keyword, fields }) => ({ keyword, fields: fields.map((f) => f.raw) })),
  });
}

const fileOf = (part: Part): Eds['file'] => ({
  text: part.row('DescText').text(),
  createDate: part.row('CreateDate').text(),
  createTime: part.row('CreateTime').text(),
  modifiedDate: part.row('ModDate').text(),
  modifiedTime: part.row('ModTime').text(),
  revision: part.row('Revision').text(),
  homeUrl: part.row('HomeURL').text(),
});

const deviceOf = (part: Part, classification: Part): Eds['device'] => ({
  vendor: part.row('VendCode').number(0),
  vendorName: part.row('VendName').text(),
  deviceType: part.row('ProdType').number(0),
  deviceTypeName: part.row('ProdTypeStr').text(),
  productCode: part.row('ProdCode').number(0),
  majorRevision: part.row('MajRev').number(0),
  minorRevision: part.row('MinRev').number(0),
  productName: part.row('ProdName').text(),
  catalog: part.row('Catalog').text(),
  classification: classification.numbered('class').map(([, row]) => row.text()),
});

function parametersOf(part: Part): DescribedParameter[] {
  const labels = new Map(part.numbered('enum'));
  // Field 1 is reserved; 2 is the length of the path in field 3.
  return part.numbered('param').map(([number, row]) => {
    const dataType = row.number(4);
    const size = row.number(5);
    const signedBits = isSignedCode(dataType) ? size * 8 : 0;
    const text = textPrefixOf(dataType) !== undefined;
    return {
      number,
      path: row.path(2),
      descriptor: row.number(3),
      dataType,
      size,
      name: row.text(6),
      unit: row.text(7),
      help: row.text(8),
      minimum: row.exact(9, signedBits),
      maximum: row.exact(10, signedBits),
      initial: text ? null : row.exact(11, signedBits),
      initialText: text ? row.text(11) : '',
      scaling: scalingIn(row),
      decimals: row.number(20, 0),
      labels: labelsOf(labels.get(number)),
    };
  });
}

/** Fields 13 to 20 of a parameter. Most have none: those share one object. */
function scalingIn(row: Row): Scaling {
  const multiplier = row.number(12, 1);
  const divider = row.number(13, 1);
  const base = row.number(14, 1);
  const offset = row.number(15, 0);
  const multiplierLink = row.reference(16, 'param');
  const dividerLink = row.reference(17, 'param');
  const baseLink = row.reference(18, 'param');
  const offsetLink = row.reference(19, 'param');
  const plain = multiplier === 1 && divider === 1 && base === 1 && offset === 0;
  if (plain && (multiplierLink ?? dividerLink ?? baseLink ?? offsetLink) === null) return plainScaling;
  return { multiplier, divider, base, offset, multiplierLink, dividerLink, baseLink, offsetLink };
}

function labelsOf(row: Row | undefined): DescribedParameter['labels'] {
  if (!row) return [];
  const labels: DescribedParameter['labels'] = [];
  for (let at = 0; at + 1 < row.count; at += 2) {
    const value = row.maybe(at);
    if (value !== null) labels.push({ value, text: row.text(at + 1) });
  }
  return labels;
}

const groupsOf = (part: Part): DescribedGroup[] =>
  part.numbered('group').map(([number, row]) => {
    const parameters: number[] = [];
    for (let at = 2; at < row.count; at += 1) {
      const listed = row.maybe(at);
      if (listed !== null) parameters.push(listed);
    }
    const stated = row.maybe(1);
    if (stated !== null && stated !== parameters.length)
      part.defects.add(row.line(1), 'eds.count', {
        entry: `Group${number}`,
        stated,
        actual: parameters.length,
      });
    return { number, name: row.text(0), parameters };
  });

const assembliesOf = (part: Part): DescribedAssembly[] =>
  part.numbered('assem').map(([number, row]) => {
    const members: AssemblyMember[] = [];
    for (let at = 6; at < row.count; at += 2) {
      // A comma before the semicolon is no member.
      if (row.text(at) === '' && row.text(at + 1) === '') continue;
      members.push({ bits: row.maybe(at), refers: referenceOf(row, at + 1) });
    }
    return {
      number,
      name: row.text(0),
      path: row.path(1),
      size: row.reference(2, 'param') === null ? row.maybe(2) : null,
      descriptor: row.number(3),
      members,
    };
  });

function referenceOf(row: Row, at: number): AssemblyMember['refers'] {
  const parameter = row.reference(at, 'param');
  if (parameter !== null) return { to: 'parameter', number: parameter };
  const assembly = row.reference(at, 'assem');
  if (assembly !== null) return { to: 'assembly', number: assembly };
  const path = row.path(at);
  return path === '' || path === '0' ? { to: 'nothing' } : { to: 'path', path };
}

const connectionsOf = (part: Part): DescribedConnection[] =>
  part.numbered('connection').map(([number, row]) => {
    const direction = (from: number): ConnectionDirection => ({
      rpi: row.stated(from),
      size: row.stated(from + 1),
      format: row.format(from + 2),
    });
    return {
      number,
      triggers: row.number(0),
      parameters: row.number(1),
      command: direction(2),
      feedback: direction(5),
      proxyConfiguration: { size: row.stated(8), format: row.format(9) },
      configuration: { size: row.stated(10), format: row.format(11) },
      name: row.text(12),
      help: row.text(13),
      path: row.path(14),
    };
  });

const portsOf = (part: Part): DescribedPort[] =>
  part.numbered('port').map(([number, row]) => ({
    number,
    type: row.text(0),
    name: row.text(1),
    path: row.path(2),
    port: row.number(3),
  }));

const capacityOf = (part: Part): Eds['capacity'] => ({
  messageConnections: part.row('MaxMsgConnections').maybe(0),
  ioProducers: part.row('MaxIOProducers').maybe(0),
  ioConsumers: part.row('MaxIOConsumers').maybe(0),
  cipConnections: part.row('MaxCIPConnections').maybe(0),
  traffic: part.numbered('tspec').map(([number, row]) => ({
    number,
    direction: row.text(0),
    bytes: row.number(1),
    packets: row.number(2),
  })),
});
