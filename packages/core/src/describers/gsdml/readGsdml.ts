import type { Described } from '../shared/described.js';
import { Defects } from '../shared/defects.js';
import { keptOf } from '../shared/keptXml.js';
import { Texts, textsIn } from '../shared/texts.js';
import {
  child,
  childrenOf,
  exactAt,
  neededAt,
  numberAt,
  readXml,
  within,
  type XmlElement,
} from '../shared/xml.js';
import { unkeptLabels, type DescribedLabel } from '../shared/fieldTexts.js';
import { gsdmlType } from './dataTypes.js';
import type {
  Gsdml,
  GsdmlAccessPoint,
  GsdmlData,
  GsdmlModule,
  GsdmlParameter,
  GsdmlRecord,
  GsdmlSubmodule,
  ModuleFacts,
  SlotRule,
} from './gsdml.js';
import { gsdmlUnderstood } from './understood.js';

/** Slots and subslots that a list may name: the numbers have 16 bits, their upper half is the system's. */
const mostSlots = 0x7fff;
const mostListed = 4096;

/** A PROFINET device description as a describer, with what is wrong with the file. Throws what `readXml` throws. */
export function readGsdml(text: string, language?: string): Described<Gsdml> {
  const defects = new Defects();
  return gsdmlOf(readXml(text, defects), defects, language);
}

/** The same from a root element that was read already. */
export function gsdmlOf(root: XmlElement, defects: Defects, language?: string): Described<Gsdml> {
  const describer = new GsdmlReader(root, defects, language).read();
  return { describer, defects: defects.list };
}

/** "1..3 7" → 1, 2, 3, 7; a count that no device has is a defect, and nothing. */
export function slotList(text: string | undefined, refuse: () => void): number[] {
  const slots: number[] = [];
  for (const part of text?.trim().split(/\s+/).filter(Boolean) ?? []) {
    const match = /^(0x[0-9a-f]+|\d+)(?:\.\.(0x[0-9a-f]+|\d+))?$/i.exec(part);
    const first = Number(match?.[1]);
    const last = Number(match?.[2] ?? match?.[1]);
    if (
      !match ||
      first > last ||
      last > 2 * mostSlots + 1 ||
      last - first > mostListed ||
      slots.length > mostListed
    )
      refuse();
    else for (let slot = first; slot <= last; slot += 1) slots.push(slot);
  }
  return slots;
}

class GsdmlReader {
  private readonly body: XmlElement | undefined;
  private readonly process: XmlElement | undefined;
  private readonly texts: Texts;
  private readonly languages: string[];
  /** What rules name: looked up when everything is read. */
  private readonly references: { line: number; entry: string; target: string; of: 'module' | 'submodule' }[] =
    [];
  private readonly values = new Map<string, DescribedLabel[]>();

  constructor(
    private readonly root: XmlElement,
    private readonly defects: Defects,
    language: string | undefined,
  ) {
    this.body = child(root, 'ProfileBody');
    this.process = child(this.body, 'ApplicationProcess');
    const list = child(this.process, 'ExternalTextList');
    const primary = child(list, 'PrimaryLanguage');
    const others = childrenOf(list, 'Language');
    const names = { id: 'TextId', value: 'Value' };
    const chosen = others.find((o) => language !== undefined && o.attributes['xml:lang'] === language);
    const primaryTexts = textsIn(primary, names);
    this.texts = new Texts(
      chosen ? textsIn(chosen, names) : primaryTexts,
      primaryTexts,
      chosen ? language! : '',
      defects,
    );
    this.languages = [...(primary ? ['primary'] : []), ...others.map((o) => o.attributes['xml:lang'] ?? '')];
    for (const item of childrenOf(child(this.process, 'ValueList'), 'ValueItem'))
      this.values.set(
        item.attributes['ID'] ?? '',
        childrenOf(child(item, 'Assignments'), 'Assign').flatMap((assign) => {
          const value = exactAt(assign, 'Content', defects);
          return value === undefined ? [] : [{ value, text: this.texts.of(assign, 'TextId') }];
        }),
      );
  }

  read(): Gsdml {
    const { body, process } = this;
    const identity = child(body, 'DeviceIdentity');
    for (const [what, there] of [
      ['ProfileBody', body],
      ['DeviceIdentity', identity],
      ['ApplicationProcess', process],
      ['DeviceAccessPointList', child(process, 'DeviceAccessPointList')],
    ] as const)
      if (!there) this.defects.add(this.root.line, 'described.missing', { what: `element <${what}>` });
    const family = within(body, 'DeviceFunction', 'Family')?.attributes ?? {};
    const schema = this.root.attributes['xsi:schemaLocation'] ?? '';
    const modules = childrenOf(child(process, 'ModuleList'), 'ModuleItem').map((m) => this.module(m));
    const submodules = childrenOf(child(process, 'SubmoduleList'), 'SubmoduleItem').map((s) =>
      this.submodule(s),
    );
    const accessPoints = childrenOf(child(process, 'DeviceAccessPointList'), 'DeviceAccessPointItem').map(
      (d) => this.accessPoint(d),
    );
    this.doubtReferences({ module: modules, submodule: submodules });
    return {
      source: 'gsdml',
      schemaVersion: /GSDML-DeviceProfile-V?([\d.]+?)\.xsd/i.exec(schema)?.[1] ?? '',
      device: {
        vendorId: (identity && neededAt(identity, 'VendorID', this.defects)) ?? 0,
        deviceId: (identity && neededAt(identity, 'DeviceID', this.defects)) ?? 0,
        vendorName: child(identity, 'VendorName')?.attributes['Value'] ?? '',
        text: this.texts.of(child(identity, 'InfoText'), 'TextId'),
        mainFamily: family['MainFamily'] ?? '',
        productFamily: family['ProductFamily'] ?? '',
      },
      accessPoints,
      modules,
      submodules,
      languages: this.languages,
      kept: keptOf(this.root, gsdmlUnderstood),
    };
  }

  private facts(element: XmlElement): ModuleFacts {
    const info = child(element, 'ModuleInfo');
    const value = (name: string) => child(info, name)?.attributes['Value'] ?? '';
    return {
      id: element.attributes['ID'] ?? '',
      identNumber:
        numberAt(element, 'ModuleIdentNumber', this.defects) ??
        numberAt(element, 'SubmoduleIdentNumber', this.defects) ??
        0,
      name: this.texts.of(child(info, 'Name'), 'TextId'),
      text: this.texts.of(child(info, 'InfoText'), 'TextId'),
      orderNumber: value('OrderNumber'),
      hardwareRelease: value('HardwareRelease'),
      softwareRelease: value('SoftwareRelease'),
    };
  }

  private slots(element: XmlElement, attribute: string): number[] {
    const text = element.attributes[attribute];
    return slotList(text, () =>
      this.defects.add(element.line, 'described.noNumber', {
        entry: `${element.name} ${attribute}`,
        text: (text ?? '').slice(0, 40),
      }),
    );
  }

  private accessPoint(element: XmlElement): GsdmlAccessPoint {
    const io = child(element, 'IOConfigData');
    const number = (of: XmlElement | undefined, name: string) =>
      (of && numberAt(of, name, this.defects)) ?? null;
    const timing = this.find(element, 'TimingProperties');
    const interval = number(element, 'MinDeviceInterval');
    return {
      ...this.facts(element),
      slots: this.slots(element, 'PhysicalSlots'),
      fixedIn: this.slots(element, 'FixedInSlots'),
      dnsName: element.attributes['DNS_CompatibleName'] ?? '',
      // In units of 31.25 µs.
      minInterval: interval === null ? null : interval * 31.25,
      maxInput: number(io, 'MaxInputLength'),
      maxOutput: number(io, 'MaxOutputLength'),
      timing: {
        sendClock: timing ? this.slots(timing, 'SendClock') : [],
        reductionRatio: timing ? this.slots(timing, 'ReductionRatio') : [],
      },
      modules: this.rules(child(element, 'UseableModules'), 'ModuleItemRef', 'ModuleItemTarget', 'Slots'),
      ...this.subslots(element),
    };
  }

  private module(element: XmlElement): GsdmlModule {
    return { ...this.facts(element), ...this.subslots(element) };
  }

  private subslots(element: XmlElement): Pick<GsdmlModule, 'submodules' | 'submoduleRules'> {
    return {
      submodules: [
        ...childrenOf(child(element, 'VirtualSubmoduleList'), 'VirtualSubmoduleItem'),
        ...childrenOf(child(element, 'SystemDefinedSubmoduleList'), 'InterfaceSubmoduleItem'),
        ...childrenOf(child(element, 'SystemDefinedSubmoduleList'), 'PortSubmoduleItem'),
      ].map((s) => this.submodule(s)),
      submoduleRules: this.rules(
        child(element, 'UseableSubmodules'),
        'SubmoduleItemRef',
        'SubmoduleItemTarget',
        'Subslots',
      ),
    };
  }

  private rules(
    list: XmlElement | undefined,
    name: string,
    target: string,
    where: 'Slots' | 'Subslots',
  ): SlotRule[] {
    const of = where === 'Slots' ? 'module' : 'submodule';
    const listed = childrenOf(list, name);
    for (const { attributes, line } of listed)
      this.references.push({ line, entry: `<${name}>`, target: attributes[target] ?? '', of });
    return listed.map((element) => ({
      target: element.attributes[target] ?? '',
      allowed: this.slots(element, `AllowedIn${where}`),
      fixed: this.slots(element, `FixedIn${where}`),
      used: this.slots(element, `UsedIn${where}`),
    }));
  }

  private submodule(element: XmlElement): GsdmlSubmodule {
    const { id, identNumber, name, text } = this.facts(element);
    const own = element.attributes['SubslotNumber'];
    const io = child(element, 'IOData');
    return {
      id,
      identNumber,
      name: name || this.texts.of(element, 'TextId'),
      text,
      fixedIn:
        own === undefined ? this.slots(element, 'FixedInSubslots') : this.slots(element, 'SubslotNumber'),
      input: this.data(child(io, 'Input'), name),
      output: this.data(child(io, 'Output'), name),
      records: childrenOf(child(element, 'RecordDataList'), 'ParameterRecordDataItem').flatMap(
        (r) => this.record(r) ?? [],
      ),
      profisafe: element.attributes['PROFIsafeSupported'] === 'true',
      fParameters: childrenOf(child(element, 'RecordDataList'), 'F_ParameterRecordDataItem').flatMap(
        attributesOf,
      ),
      channelDiagnosis: this.channelDiagnosis(child(element, 'ChannelDiagList')),
    };
  }

  private channelDiagnosis(list: XmlElement | undefined): GsdmlSubmodule['channelDiagnosis'] {
    const known = (list?.children ?? []).filter(({ name }) =>
      /^(SystemDefined|Profile)?ChannelDiagItem$/.test(name),
    );
    return known.flatMap((item) => {
      const errorType = neededAt(item, 'ErrorType', this.defects);
      if (errorType === undefined) return [];
      const [name, help] = [child(item, 'Name'), child(item, 'Help')];
      return [{ errorType, name: this.texts.of(name, 'TextId'), help: this.texts.of(help, 'TextId') }];
    });
  }

  private data(element: XmlElement | undefined, owner: string): GsdmlData | null {
    if (!element) return null;
    const items = childrenOf(element, 'DataItem').map((item) => {
      const dataType = item.attributes['DataType'] ?? '';
      const length = numberAt(item, 'Length', this.defects);
      const known = gsdmlType(dataType, length);
      if (!known)
        this.defects.add(item.line, 'described.unknownType', {
          entry: `<DataItem> of ${owner}`,
          type: dataType,
        });
      const bytes = known?.bytes ?? length ?? 1;
      const bits = childrenOf(item, 'BitDataItem').flatMap((bit) => {
        const offset = neededAt(bit, 'BitOffset', this.defects);
        if (offset === undefined) return [];
        const name = this.texts.of(bit, 'TextId');
        if (offset < bytes * 8) return [{ offset, name }];
        this.defects.add(bit.line, 'described.pastEnd', { entry: name, endsAtBit: offset, bits: bytes * 8 });
        return [];
      });
      return {
        name: this.texts.of(item, 'TextId'),
        dataType,
        bytes,
        asBits: item.attributes['UseAsBits'] === 'true',
        bits,
      };
    });
    return {
      consistency: element.attributes['Consistency'] ?? 'Item consistency',
      bytes: items.reduce((sum, i) => sum + i.bytes, 0),
      items,
    };
  }

  private record(element: XmlElement): GsdmlRecord | undefined {
    const bytes = neededAt(element, 'Length', this.defects);
    const index = neededAt(element, 'Index', this.defects);
    if (bytes === undefined || index === undefined) return undefined;
    return {
      index,
      bytes,
      name: this.texts.of(child(element, 'Name'), 'TextId'),
      sequence: numberAt(element, 'TransferSequence', this.defects) ?? 0,
      constants: childrenOf(element, 'Const').map((constant) => ({
        byteOffset: numberAt(constant, 'ByteOffset', this.defects) ?? 0,
        data: (constant.attributes['Data'] ?? '')
          .replace(/0x/gi, '')
          .replace(/[\s,]+/g, ' ')
          .trim()
          .toUpperCase(),
      })),
      parameters: childrenOf(element, 'Ref').flatMap((ref) => this.parameter(ref, bytes) ?? []),
    };
  }

  private parameter(ref: XmlElement, recordBytes: number): GsdmlParameter | undefined {
    const parameter = this.plainParameter(ref);
    if (!parameter) return undefined;
    const { name, dataType, byteOffset, bitOffset, bitLength, length } = parameter;
    const ofBits = dataType === 'Bit' || dataType === 'BitArea';
    const bits = ofBits ? bitOffset + bitLength : (gsdmlType(dataType, length ?? 0)?.bytes ?? 0) * 8;
    const end = byteOffset * 8 + bits;
    if (end > recordBytes * 8)
      this.defects.add(ref.line, 'described.pastRecord', {
        entry: name || '<Ref>',
        endsAtBit: end - 1,
        bits: recordBytes * 8,
      });
    return parameter;
  }

  private plainParameter(ref: XmlElement): GsdmlParameter | undefined {
    const byteOffset = neededAt(ref, 'ByteOffset', this.defects);
    if (byteOffset === undefined) return undefined;
    const target = ref.attributes['ValueItemTarget'];
    const labels = target === undefined ? [] : this.values.get(target);
    if (!labels)
      this.defects.add(ref.line, 'described.dangling', { entry: '<Ref>', refers: `the values ${target}` });
    const lost = unkeptLabels(labels ?? []);
    if (lost) this.defects.add(ref.line, 'described.labels', { entry: '<Ref>', ...lost });
    return {
      name: this.texts.of(ref, 'TextId'),
      dataType: ref.attributes['DataType'] ?? '',
      byteOffset,
      bitOffset: numberAt(ref, 'BitOffset', this.defects) ?? 0,
      bitLength: numberAt(ref, 'BitLength', this.defects) ?? 1,
      initial: ref.attributes['DefaultValue'] ?? '',
      allowed: ref.attributes['AllowedValues'] ?? '',
      changeable: ref.attributes['Changeable'] !== 'false',
      visible: ref.attributes['Visible'] !== 'false',
      help: this.texts.of(child(ref, 'Help'), 'TextId'),
      length: numberAt(ref, 'Length', this.defects) ?? null,
      labels: labels ?? [],
    };
  }

  /** Modules and submodules that a rule names and the file does not have. */
  private doubtReferences(known: Record<'module' | 'submodule', readonly { id: string }[]>): void {
    const ids = {
      module: new Set(known.module.map((m) => m.id)),
      submodule: new Set(known.submodule.map((s) => s.id)),
    };
    for (const { line, entry, target, of } of this.references)
      if (!ids[of].has(target))
        this.defects.add(line, 'described.dangling', { entry, refers: `the ${of} ${target}` });
  }

  private find(element: XmlElement, name: string): XmlElement | undefined {
    for (const inner of element.children) {
      const found = inner.name === name ? inner : this.find(inner, name);
      if (found) return found;
    }
    return undefined;
  }
}

/** The attributes of an element and of all in it, as names and texts: `F_SIL.DefaultValue`. */
const attributesOf = ({ name, attributes, children }: XmlElement): GsdmlSubmodule['fParameters'] => [
  ...Object.entries(attributes).map(([key, text]) => ({ name: `${name}.${key}`, text })),
  ...children.flatMap(attributesOf),
];
