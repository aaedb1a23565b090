import type { Described } from '../shared/described.js';
import { Defects } from '../shared/defects.js';
import { keptOf } from '../shared/keptXml.js';
import { limitsNotKept } from '../shared/engineering.js';
import { unkeptLabels } from '../shared/fieldTexts.js';
import { Texts, textsIn } from '../shared/texts.js';
import {
  child,
  childrenOf,
  exactAt,
  neededAt,
  neededExactAt,
  numberAt,
  readXml,
  within,
  type XmlElement,
} from '../shared/xml.js';
import type {
  Iodd,
  IoddData,
  IoddEvent,
  IoddItem,
  IoddMenu,
  IoddProcessData,
  IoddShown,
  IoddType,
  IoddVariable,
} from './iodd.js';
import { isExact, scaleOf } from './ioddFields.js';
import { ioddUnderstood } from './understood.js';
import { isUnit, standardErrors, standardEvents, standardVariables, unitText } from './standard.js';

export interface IoddOptions {
  /** Language to read texts in where the file has it; the primary one else. */
  language?: string;
  /** Language files that came in the same package. */
  languageFiles?: readonly string[];
}

const textNames = { id: 'id', value: 'value' };
/** Menus, variables and items that are read; a file that has more is no device's. */
const mostOfAKind = 20_000;

/**
 * An IO-Link device description as a describer, with what is wrong with the file. Throws what `readXml` throws, and a
 * defect list with what is missing else.
 */
export function readIodd(text: string, { language, languageFiles = [] }: IoddOptions = {}): Described<Iodd> {
  const defects = new Defects();
  return ioddOf(readXml(text, defects), defects, language, languageFiles);
}

/** The same from a root element that was read already. */
export function ioddOf(
  root: XmlElement,
  defects: Defects,
  language?: string,
  languageFiles: readonly string[] = [],
): Described<Iodd> {
  const reader = new IoddReader(root, defects, language, languageFiles);
  return { describer: reader.read(), defects: defects.list };
}

class IoddReader {
  private readonly body: XmlElement | undefined;
  private readonly device: XmlElement | undefined;
  private readonly texts: Texts;
  private readonly languages: string[];
  private readonly datatypes = new Map<string, XmlElement>();
  /** Every variable that the file has or refers to. */
  private readonly variableIds: ReadonlySet<string>;
  /** How the user interface shows a variable, or one item of it. */
  private readonly shown = new Map<string, IoddShown>();

  constructor(
    private readonly root: XmlElement,
    private readonly defects: Defects,
    language: string | undefined,
    languageFiles: readonly string[],
  ) {
    this.body = child(root, 'ProfileBody');
    this.device = child(this.body, 'DeviceFunction');
    const collection = child(root, 'ExternalTextCollection');
    const primary = child(collection, 'PrimaryLanguage');
    const others = [
      ...childrenOf(collection, 'Language'),
      ...languageFiles.flatMap((file) => {
        // A language file has its own root around the same element.
        const document = readXml(file, defects);
        return [
          ...childrenOf(document, 'Language'),
          ...childrenOf(child(document, 'ExternalTextCollection'), 'Language'),
        ];
      }),
    ];
    const languageOf = (element: XmlElement | undefined) => element?.attributes['xml:lang'] ?? '';
    this.languages = [...new Set([primary, ...others].flatMap((e) => (e ? [languageOf(e)] : [])))];
    const chosen = others.find((o) => language !== undefined && languageOf(o) === language);
    const primaryTexts = textsIn(primary, textNames);
    const chosenTexts = chosen ? textsIn(chosen, textNames) : primaryTexts;
    this.texts = new Texts(chosenTexts, primaryTexts, chosen ? language! : languageOf(primary), defects);
    this.variableIds = new Set(
      (child(this.device, 'VariableCollection')?.children ?? []).map((v) => v.attributes['id'] ?? ''),
    );
    for (const type of child(this.device, 'DatatypeCollection')?.children ?? [])
      if (type.attributes['id']) this.datatypes.set(type.attributes['id'], type);
  }

  read(): Iodd {
    const { body, device } = this;
    if (!body) this.missing('ProfileBody');
    const identity = child(body, 'DeviceIdentity');
    if (!identity) this.missing('DeviceIdentity');
    const userInterface = child(device, 'UserInterface');
    this.readShown(userInterface);
    const document = child(this.root, 'DocumentInfo')?.attributes ?? {};
    return {
      source: 'iodd',
      document: { version: document['version'] ?? '', releaseDate: document['releaseDate'] ?? '' },
      device: {
        vendorId: (identity && neededAt(identity, 'vendorId', this.defects)) ?? 0,
        deviceId: (identity && neededAt(identity, 'deviceId', this.defects)) ?? 0,
        vendorName: identity?.attributes['vendorName'] ?? '',
        vendorUrl: this.texts.of(child(identity, 'VendorUrl')),
        name: this.texts.of(child(identity, 'DeviceName')),
        family: this.texts.of(child(identity, 'DeviceFamily')),
        variants: childrenOf(child(identity, 'DeviceVariantCollection'), 'DeviceVariant').map((v) => ({
          productId: v.attributes['productId'] ?? '',
          name: this.texts.of(child(v, 'Name') ?? child(v, 'ProductName')),
          text: this.texts.of(child(v, 'Description') ?? child(v, 'ProductText')),
        })),
      },
      communication: this.communication(),
      variables: this.variables(),
      processData: this.processData(),
      events: this.events(),
      errors: this.errors(),
      menus: this.menus(userInterface),
      languages: this.languages,
      kept: keptOf(this.root, ioddUnderstood),
    };
  }

  private missing(what: string): void {
    this.defects.add(this.root.line, 'described.missing', { what: `element <${what}>` });
  }

  private communication(): Iodd['communication'] {
    const profile = child(this.root, 'CommNetworkProfile');
    const physical = within(profile, 'TransportLayers', 'PhysicalLayer');
    const attributes = physical?.attributes ?? {};
    return {
      ioLinkRevision: profile?.attributes['iolinkRevision'] ?? '',
      bitrate: attributes['bitrate'] ?? attributes['baudrate'] ?? '',
      minCycleTime: (physical && numberAt(physical, 'minCycleTime', this.defects)) ?? null,
      sioSupported: attributes['sioSupported'] === 'true',
    };
  }

  /** Gradient, offset and unit stand with the user interface: of process data, and of variables in menus. */
  private readShown(userInterface: XmlElement | undefined): void {
    const note = (key: string, element: XmlElement) => {
      const { gradient = '1', offset = '0', displayFormat = '' } = element.attributes;
      const code = numberAt(element, 'unitCode', this.defects);
      const unit = unitText(code);
      if (code !== undefined && !isUnit(code))
        this.defects.add(element.line, 'iodd.unit', { entry: key.trim(), code });
      for (const [name, text] of [
        ['gradient', gradient],
        ['offset', offset],
      ] as const)
        if (!isExact(text))
          this.defects.add(element.line, 'iodd.scale', { entry: key.trim(), name, text: text.slice(0, 40) });
      if (gradient !== '1' || offset !== '0' || unit || displayFormat)
        this.shown.set(key, { gradient, offset, unit, format: displayFormat });
    };
    for (const data of childrenOf(child(userInterface, 'ProcessDataRefCollection'), 'ProcessDataRef')) {
      const id = data.attributes['processDataId'] ?? '';
      for (const info of data.children) note(`${id} ${info.attributes['subindex'] ?? '0'}`, info);
    }
    for (const menu of childrenOf(child(userInterface, 'MenuCollection'), 'Menu'))
      for (const entry of menu.children) {
        const id = entry.attributes['variableId'];
        if (id) note(`${id} ${entry.attributes['subindex'] ?? '0'}`, entry);
      }
  }

  private variables(): IoddVariable[] {
    const collection = child(this.device, 'VariableCollection');
    const seen = new Map<string, number>();
    return (collection?.children ?? []).slice(0, mostOfAKind).flatMap((element) => {
      const { name, attributes, line } = element;
      if (name !== 'Variable' && name !== 'StdVariableRef') return [];
      const id = attributes['id'] ?? '';
      const first = seen.get(id);
      if (first !== undefined) {
        this.defects.add(line, 'described.twice', { what: `The variable ${id}`, first });
        return [];
      }
      seen.set(id, line);
      return (name === 'Variable' ? this.variable(id, element) : this.standardVariable(id, element)) ?? [];
    });
  }

  private variable(id: string, element: XmlElement): IoddVariable | undefined {
    const access = element.attributes['accessRights'];
    const index = neededAt(element, 'index', this.defects);
    if (index === undefined) return undefined;
    return {
      id,
      index,
      name: this.texts.of(child(element, 'Name')),
      help: this.texts.of(child(element, 'Description')),
      access: access === 'rw' || access === 'wo' ? access : 'ro',
      type: withInitials(element, this.typeIn(element, id)),
      initial: element.attributes['defaultValue'] ?? '',
      standard: false,
      shown: this.shown.get(`${id} 0`) ?? null,
    };
  }

  private standardVariable(id: string, element: XmlElement): IoddVariable {
    const known = standardVariables[id];
    if (!known) this.dangling(element, id);
    return {
      id,
      index: known?.index ?? 0,
      name: known?.name ?? id,
      help: '',
      access: known?.access ?? 'ro',
      type: { ...noType(known?.kind ?? 'unknown'), bits: known?.bits ?? 0 },
      initial: element.attributes['defaultValue'] ?? '',
      standard: true,
      shown: this.shown.get(`${id} 0`) ?? null,
    };
  }

  private dangling(element: XmlElement, refers: string): void {
    this.defects.add(element.line, 'described.dangling', { entry: `<${element.name}>`, refers });
  }

  private processData(): IoddProcessData[] {
    const collection = child(this.device, 'ProcessDataCollection');
    return childrenOf(collection, 'ProcessData').map((element) => {
      const condition = child(element, 'Condition');
      return {
        id: element.attributes['id'] ?? '',
        condition: condition ? this.condition(condition) : null,
        input: this.data(child(element, 'ProcessDataIn')),
        output: this.data(child(element, 'ProcessDataOut')),
      };
    });
  }

  /** What a variable must be for these data; null for one that does not say it, which is told. */
  private condition(element: XmlElement): IoddProcessData['condition'] {
    const variable = element.attributes['variableId'] ?? '';
    if (!this.variableIds.has(variable)) this.dangling(element, `the variable ${variable}`);
    const value = truth(element) ?? neededExactAt(element, 'value', this.defects);
    if (value === undefined) return null;
    return { variable, subindex: numberAt(element, 'subindex', this.defects) ?? 0, value };
  }

  private data(element: XmlElement | undefined): IoddData | null {
    if (!element) return null;
    const id = element.attributes['id'] ?? '';
    const type = this.typeIn(element, id);
    const bits = numberAt(element, 'bitLength', this.defects) ?? type.bits;
    this.doubtItems(element, type, bits);
    const shown = this.shown.get(`${id} 0`) ?? null;
    return { id, name: this.texts.of(child(element, 'Name')), bits, type, shown };
  }

  /** Items that lie over each other, or past the end. */
  private doubtItems(element: XmlElement, { items }: IoddType, bits: number): void {
    const sorted = [...items].sort((a, b) => a.bitOffset - b.bitOffset);
    sorted.forEach((item, i) => {
      const end = item.bitOffset + item.type.bits;
      if (end > bits)
        this.defects.add(element.line, 'described.pastEnd', { entry: item.name, endsAtBit: end - 1, bits });
      const next = sorted[i + 1];
      if (next && next.bitOffset < end)
        this.defects.add(element.line, 'described.overlap', { first: item.name, second: next.name });
    });
  }

  /** The type that an element holds or refers to. `owner` is what its shown values are kept under. */
  private typeIn(element: XmlElement, owner: string): IoddType {
    const own = child(element, 'Datatype') ?? child(element, 'SimpleDatatype');
    const reference = child(element, 'DatatypeRef')?.attributes['datatypeId'];
    if (reference === undefined) return own ? this.type(own, owner) : noType('unknown');
    const named = this.datatypes.get(reference);
    if (named) return this.type(named, owner);
    this.dangling(element, `the data type ${reference}`);
    return noType('unknown');
  }

  private type(element: XmlElement, owner: string): IoddType {
    const written = bareName(instanceType(element) ?? element.attributes['type'] ?? '');
    const kind = kinds[written];
    if (!kind) this.defects.add(element.line, 'described.unknownType', { entry: owner, type: written });
    const length = numberAt(element, 'bitLength', this.defects);
    const bytes = numberAt(element, 'fixedLength', this.defects);
    const bits = length ?? (bytes === undefined ? (fixedBits[written] ?? 0) : bytes * 8);
    const items = childrenOf(element, 'RecordItem')
      .slice(0, mostOfAKind)
      .flatMap((item) => this.item(item, owner) ?? []);
    const simple = kind === 'array' ? this.typeIn(element, owner) : undefined;
    const ranges = childrenOf(element, 'ValueRange').map((range) => ({
      minimum: exactAt(range, 'lowerValue', this.defects) ?? null,
      maximum: exactAt(range, 'upperValue', this.defects) ?? null,
    }));
    const scale = () => scaleOf(this.shown.get(owner) ?? this.shown.get(`${owner} 0`) ?? null) ?? undefined;
    for (const range of ranges)
      if (limitsNotKept(range, scale)) this.defects.add(element.line, 'described.limits', { entry: owner });
    const count = Math.min(mostOfAKind, Math.max(0, numberAt(element, 'count', this.defects) ?? 1));
    return {
      kind: kind ?? 'unknown',
      bits: simple ? simple.bits * count : bits,
      ranges,
      labels: this.labels(element, owner),
      items: simple ? this.elements(simple, count, owner) : items,
    };
  }

  private labels(element: XmlElement, owner: string): IoddType['labels'] {
    const labels = childrenOf(element, 'SingleValue').flatMap((single) => {
      const value = truth(single) ?? exactAt(single, 'value', this.defects);
      return value === undefined ? [] : [{ value, text: this.texts.of(child(single, 'Name')) }];
    });
    const lost = unkeptLabels(labels);
    if (lost) this.defects.add(element.line, 'described.labels', { entry: owner, ...lost });
    return labels;
  }

  /** The elements of an array; subindex 1 comes first on the wire and so has the highest offset (annex F.3). */
  private elements(type: IoddType, count: number, owner: string): IoddItem[] {
    return Array.from({ length: count }, (_, i) => ({
      subindex: i + 1,
      bitOffset: (count - 1 - i) * type.bits,
      name: '',
      help: '',
      type,
      initial: '',
      shown: this.shown.get(`${owner} ${i + 1}`) ?? null,
    }));
  }

  private item(element: XmlElement, owner: string): IoddItem | undefined {
    const subindex = neededAt(element, 'subindex', this.defects);
    const bitOffset = neededAt(element, 'bitOffset', this.defects);
    if (subindex === undefined || bitOffset === undefined) return undefined;
    return {
      subindex,
      bitOffset,
      name: this.texts.of(child(element, 'Name')),
      help: this.texts.of(child(element, 'Description')),
      type: this.typeIn(element, `${owner} ${subindex}`),
      initial: '',
      shown: this.shown.get(`${owner} ${subindex}`) ?? null,
    };
  }

  private events(): IoddEvent[] {
    const collection = child(this.device, 'EventCollection');
    return (collection?.children ?? []).flatMap((event) => {
      if (event.name !== 'Event' && event.name !== 'StdEventRef') return [];
      const code = neededAt(event, 'code', this.defects);
      if (code === undefined) return [];
      const standard = event.name === 'StdEventRef' ? standardEvents[code] : undefined;
      if (event.name === 'StdEventRef' && !standard) this.dangling(event, `the event ${code}`);
      return [
        {
          code,
          type: event.attributes['type'] ?? standard?.type ?? '',
          mode: event.attributes['mode'] ?? '',
          name: this.texts.of(child(event, 'Name')) || (standard?.name ?? ''),
          help: this.texts.of(child(event, 'Description')),
        },
      ];
    });
  }

  private errors(): Iodd['errors'] {
    const collection = child(this.device, 'ErrorTypeCollection');
    return (collection?.children ?? []).flatMap((error) => {
      if (error.name !== 'ErrorType' && error.name !== 'StdErrorTypeRef') return [];
      const code = neededAt(error, 'code', this.defects);
      if (code === undefined) return [];
      const additionalCode = numberAt(error, 'additionalCode', this.defects) ?? 0;
      const standard =
        error.name === 'StdErrorTypeRef' ? standardErrors[code * 256 + additionalCode] : undefined;
      if (error.name === 'StdErrorTypeRef' && !standard)
        this.dangling(error, `the error type ${code}, ${additionalCode}`);
      const name = this.texts.of(child(error, 'Name')) || (standard ?? '');
      return [{ code, additionalCode, name }];
    });
  }

  private menus(userInterface: XmlElement | undefined): IoddMenu[] {
    const menus = childrenOf(child(userInterface, 'MenuCollection'), 'Menu').slice(0, mostOfAKind);
    const known = new Set(menus.map((m) => m.attributes['id']));
    return menus.map((menu) => ({
      id: menu.attributes['id'] ?? '',
      name: this.texts.of(child(menu, 'Name')),
      entries: menu.children.flatMap((entry) => {
        const variable = entry.attributes['variableId'];
        if (!variable) return [];
        if (!this.variableIds.has(variable)) this.dangling(entry, `the variable ${variable}`);
        return [{ variable, subindex: numberAt(entry, 'subindex', this.defects) ?? null }];
      }),
      menus: childrenOf(menu, 'MenuRef').flatMap((reference) => {
        const id = reference.attributes['menuId'] ?? '';
        if (!known.has(id)) this.dangling(reference, `the menu ${id}`);
        return [id];
      }),
    }));
  }
}

const noType = (kind: IoddType['kind']): IoddType => ({
  kind,
  bits: 0,
  ranges: [],
  labels: [],
  items: [],
});

/** Data types of IODD 1.1, 7.5 (from memory). */
const kinds: Readonly<Record<string, IoddType['kind']>> = {
  BooleanT: 'boolean',
  UIntegerT: 'uint',
  IntegerT: 'int',
  Float32T: 'float',
  StringT: 'string',
  OctetStringT: 'octets',
  TimeT: 'time',
  TimeSpanT: 'time',
  RecordT: 'record',
  ArrayT: 'array',
  ProcessDataInUnionT: 'record',
  ProcessDataOutUnionT: 'record',
};
const fixedBits: Readonly<Record<string, number>> = { BooleanT: 1, Float32T: 32, TimeT: 64, TimeSpanT: 64 };

/** A name without the prefix of its namespace. */
const bareName = (name: string) => name.slice(name.indexOf(':') + 1);

/** The type of XML Schema's instance namespace, whatever prefix it is given: `xsi:type`, `i:type`. */
const instanceType = ({ attributes }: XmlElement): string | undefined =>
  attributes['xsi:type'] ??
  Object.entries(attributes).find(([name]) => name.endsWith(':type') && !name.startsWith('xml:'))?.[1];

/** What RecordItemInfo says of the items of a record, for which the type itself has no room. */
function withInitials(element: XmlElement, type: IoddType): IoddType {
  const initials = new Map(
    childrenOf(element, 'RecordItemInfo').map(({ attributes }) => [
      Number(attributes['subindex']),
      attributes['defaultValue'] ?? '',
    ]),
  );
  if (initials.size === 0) return type;
  return {
    ...type,
    items: type.items.map((item) => ({ ...item, initial: initials.get(item.subindex) ?? '' })),
  };
}

/** The value of a single value of a boolean. */
const truth = (element: XmlElement): number | undefined =>
  ({ true: 1, false: 0 })[element.attributes['value'] ?? ''];
