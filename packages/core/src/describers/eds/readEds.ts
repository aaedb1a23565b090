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
  Format,
  Scaling,
  Stated,
} from './eds.js';
import { Defects } from '../shared/defects.js';
import { plainScaling } from './scaling.js';
import { readSections, type Entry, type Section } from './grammar.js';

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
 * An electronic data sheet as a describer, with what is wrong with the file. Throws `describer.tooLarge` and `eds.none`. Sections and
 * entries that are not understood are kept as they were written.
 */
export function readEds(text: string): Described<Eds> {
  const defects = new Defects();
  const sections = readSections(text.replace(/^\ufeff/, ''), defects);
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
      defects.add(1, 'described.missing', { what: `the section [${name === 'file' ? 'File' : 'Device'}]` });

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
  doubt(describer, parts, defects);
  return { describer, defects: defects.list };
}

function keep(kept: KeptSection[], name: string, entries: readonly Entry[]): void {
  if (entries.length === 0 && known.includes(name.toLowerCase() as Known)) return;
  kept.push({
    name,
    entries: entries.map(({ keyword, fields }) => ({ keyword, fields: fields.map((f) => f.raw) })),
  });
}

/** The entries of a section by keyword; what was asked for is taken, the rest is kept. */
class Part {
  readonly name: string;
  readonly line: number;
  private readonly entries = new Map<string, Entry>();
  private readonly taken = new Set<string>();

  constructor(
    section: Section,
    readonly defects: Defects,
  ) {
    this.name = section.name;
    this.line = section.line;
    for (const entry of section.entries) this.take(entry);
  }

  /** The first of two entries with one keyword counts. */
  take(entry: Entry): void {
    const key = entry.keyword.toLowerCase();
    const before = this.entries.get(key);
    if (before) this.defects.add(entry.line, 'described.twice', { what: entry.keyword, first: before.line });
    else this.entries.set(key, entry);
  }

  row(keyword: string): Row {
    const key = keyword.toLowerCase();
    const entry = this.entries.get(key);
    if (entry) this.taken.add(key);
    return new Row(entry, this.defects);
  }

  /** Entries called by a word and a number, ascending. */
  numbered(word: string): [number, Row][] {
    const rows: [number, Row][] = [];
    for (const [key, entry] of this.entries) {
      const number = key.startsWith(word) ? shortWhole(key, word.length) : undefined;
      if (number === undefined) continue;
      this.taken.add(key);
      rows.push([number, new Row(entry, this.defects)]);
    }
    return rows.sort(([a], [b]) => a - b);
  }

  lineOf(keyword: string): number {
    return this.entries.get(keyword.toLowerCase())?.line ?? this.line;
  }

  untaken(): Entry[] {
    const left: Entry[] = [];
    if (this.taken.size < this.entries.size)
      for (const [key, entry] of this.entries) if (!this.taken.has(key)) left.push(entry);
    return left;
  }
}

/** The fields of one entry by their place, from 0. */
class Row {
  constructor(
    private readonly entry: Entry | undefined,
    private readonly defects: Defects,
  ) {}

  get count(): number {
    return this.entry?.fields.length ?? 0;
  }

  text(at = 0): string {
    return this.entry?.fields[at]?.text ?? '';
  }

  /** A number; null where the field is empty. What is no number counts as empty and is said. */
  maybe(at: number): number | null {
    const field = this.entry?.fields[at];
    if (!field || field.text === '') return null;
    const number = edsNumber(field.text);
    if (number === undefined)
      this.defects.add(this.line(at), 'eds.noNumber', {
        entry: this.entry!.keyword,
        field: at + 1,
        text: field.text.slice(0, 40),
      });
    return number ?? null;
  }

  number(at: number, otherwise = 0): number {
    return this.maybe(at) ?? otherwise;
  }

  /** `Param12` → 12. */
  reference(at: number, word: 'param' | 'assem'): number | null {
    const text = this.text(at);
    if (text.length <= word.length || text.length > word.length + 9) return null;
    if (text.slice(0, word.length).toLowerCase() !== word) return null;
    const digits = text.slice(word.length);
    return /^\d+$/.test(digits) ? Number(digits) : null;
  }

  stated(at: number): Stated {
    const parameter = this.reference(at, 'param');
    if (parameter !== null) return { parameter };
    const value = this.maybe(at);
    return value === null ? null : { value };
  }

  format(at: number): Format {
    const parameter = this.reference(at, 'param');
    if (parameter !== null) return { parameter };
    const assembly = this.reference(at, 'assem');
    if (assembly === null && this.text(at) !== '')
      this.defects.add(this.line(at), 'eds.noReference', { entry: this.entry!.keyword, text: this.text(at) });
    return assembly === null ? null : { assembly };
  }

  path(at: number): string {
    if (this.text(at) === '') return '';
    const text = this.text(at).trim().split(/\s+/).join(' ');
    // A path may also be a text with brackets for what is filled in later.
    return /^[0-9a-f ]*$/i.test(text) ? text.toUpperCase() : text;
  }

  line(at = 0): number {
    return this.entry?.fields[at]?.line || this.entry?.line || 0;
  }
}

/** Decimal, hex with 0x, or a floating number; undefined for anything else. */
function edsNumber(text: string): number | undefined {
  const plain = shortWhole(text);
  if (plain !== undefined) return plain;
  if (/^0x[0-9a-f]{1,16}$/i.test(text)) return Number(text);
  if (!/^[+-]?(\d{1,25}(\.\d{0,40})?|\.\d{1,40})(e[+-]?\d{1,3})?$/i.test(text)) return undefined;
  const number = Number(text);
  return Number.isFinite(number) ? number : undefined;
}

/** A whole number of up to nine digits, as nearly all are, from a place of the text to its end; undefined for any other text. */
function shortWhole(text: string, from = 0): number | undefined {
  if (text.length <= from || text.length > from + 9) return undefined;
  let value = 0;
  for (let i = from; i < text.length; i += 1) {
    const digit = text.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return undefined;
    value = value * 10 + digit;
  }
  return value;
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
  return part.numbered('param').map(([number, row]) => ({
    number,
    path: row.path(2),
    descriptor: row.number(3),
    dataType: row.number(4),
    size: row.number(5),
    name: row.text(6),
    unit: row.text(7),
    help: row.text(8),
    least: row.maybe(9),
    most: row.maybe(10),
    initial: row.maybe(11),
    scaling: scalingIn(row),
    decimals: row.number(20, 0),
    labels: labelsOf(labels.get(number)),
  }));
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

/** What fits the grammar and yet cannot be: references to nothing, and sizes that do not add up. */
function doubt(describer: Eds, parts: ReadonlyMap<Known, Part>, defects: Defects): void {
  const parameters = new Map(describer.parameters.map((p) => [p.number, p]));
  const assemblies = new Map(describer.assemblies.map((a) => [a.number, a]));
  const bitsOf = memberBits(parameters, assemblies);
  for (const assembly of describer.assemblies) {
    const entry = `Assem${assembly.number}`;
    const line = parts.get('assembly')!.lineOf(entry);
    for (const { refers } of assembly.members) {
      const there =
        refers.to === 'parameter'
          ? parameters.has(refers.number)
          : refers.to !== 'assembly' || assemblies.has(refers.number);
      if (there) continue;
      const word = refers.to === 'parameter' ? 'Param' : 'Assem';
      defects.add(line, 'described.dangling', {
        entry,
        refers: `${word}${(refers as { number: number }).number}`,
      });
    }
    const bits = bitsOf(assembly);
    if (
      assembly.members.length > 0 &&
      assembly.size !== null &&
      bits !== undefined &&
      Math.ceil(bits / 8) !== assembly.size
    )
      defects.add(line, 'eds.size', { entry, stated: assembly.size, actual: Math.ceil(bits / 8) });
  }
  for (const connection of describer.connections) {
    const entry = `Connection${connection.number}`;
    const { command, feedback, configuration } = connection;
    for (const { size, format } of [command, feedback, configuration]) {
      for (const stated of [size, format]) {
        const dangling =
          stated && 'parameter' in stated && !parameters.has(stated.parameter)
            ? `Param${stated.parameter}`
            : stated && 'assembly' in stated && !assemblies.has(stated.assembly)
              ? `Assem${stated.assembly}`
              : undefined;
        if (dangling)
          defects.add(parts.get('connection manager')!.lineOf(entry), 'described.dangling', {
            entry,
            refers: dangling,
          });
      }
    }
  }
  for (const group of describer.groups)
    for (const number of group.parameters)
      if (!parameters.has(number))
        defects.add(parts.get('groups')!.lineOf(`Group${group.number}`), 'described.dangling', {
          entry: `Group${group.number}`,
          refers: `Param${number}`,
        });
}

/** Bits of all members of each assembly; undefined where one of them cannot be said, as in an assembly that holds itself. */
function memberBits(
  parameters: ReadonlyMap<number, DescribedParameter>,
  assemblies: ReadonlyMap<number, DescribedAssembly>,
): (assembly: DescribedAssembly) => number | undefined {
  // An assembly whose sum is being made stands here as undefined: who meets it goes in a circle.
  const sums = new Map<DescribedAssembly, number | undefined>();
  const bitsOf = (assembly: DescribedAssembly): number | undefined => {
    if (sums.has(assembly)) return sums.get(assembly);
    sums.set(assembly, undefined);
    let sum: number | undefined = 0;
    for (const { bits, refers } of assembly.members) {
      const own: number | undefined = bits ?? referredBits(refers);
      sum = own === undefined || sum === undefined ? undefined : sum + own;
    }
    sums.set(assembly, sum);
    return sum;
  };
  const referredBits = (refers: AssemblyMember['refers']): number | undefined => {
    if (refers.to === 'nothing') return 0;
    if (refers.to === 'path') return undefined;
    if (refers.to === 'parameter') {
      const size = parameters.get(refers.number)?.size;
      return size === undefined ? undefined : size * 8;
    }
    const inner = assemblies.get(refers.number);
    if (!inner) return undefined;
    return inner.members.length > 0 ? bitsOf(inner) : inner.size === null ? undefined : inner.size * 8;
  };
  return bitsOf;
}
