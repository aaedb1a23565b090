import fc from 'fast-check';
import { expect, test } from 'vitest';
import { anyText, habits, node, roughXml, type Node } from '../shared/testXml.js';
import type { Gsdml, GsdmlData, GsdmlParameter, GsdmlRecord, GsdmlSubmodule } from './gsdml.js';
import { gsdmlFacts } from './gsdmlFacts.js';
import { readGsdml } from './readGsdml.js';
import { runs } from '../../testRuns.js';

/** Random models, written as GSDML 2.x has them (schema from memory) and in the habits of other programs. */

const number = (min: number, max: number) => fc.integer({ min, max });
/** Data types of the schema with their sizes in bytes; 0: as the item says. */
const sizes = {
  Integer8: 1,
  Unsigned16: 2,
  Integer32: 4,
  Unsigned64: 8,
  Float32: 4,
  Float64: 8,
  'Float32+Unsigned8': 5,
  OctetString: 0,
  VisibleString: 0,
  TimeOfDay: 6,
};
const item = fc.record({
  name: anyText,
  type: fc.constantFrom(...(Object.keys(sizes) as (keyof typeof sizes)[])),
  length: number(1, 8),
  bits: fc.uniqueArray(fc.record({ offset: number(0, 7), name: anyText }), {
    selector: (b) => b.offset,
    maxLength: 3,
  }),
});
const data = fc.array(item, { minLength: 1, maxLength: 4 }).map((items): GsdmlData => {
  const all = items.map(({ name, type, length, bits }) => ({
    name,
    dataType: type,
    bytes: sizes[type] || length,
    asBits: bits.length > 0,
    bits,
  }));
  return {
    consistency: 'All items consistency',
    bytes: all.reduce((sum, i) => sum + i.bytes, 0),
    items: all,
  };
});
const labels = fc.uniqueArray(
  fc.record({
    value: fc.oneof(number(-128, 255), fc.bigInt({ min: 2n ** 53n, max: 2n ** 64n - 1n })),
    text: anyText,
  }),
  { selector: (l) => l.value, maxLength: 3 },
);
const parameter: fc.Arbitrary<GsdmlParameter> = fc.record({
  name: anyText,
  dataType: fc.constantFrom('Unsigned8', 'Integer16', 'Float32', 'Unsigned64'),
  byteOffset: number(0, 8),
  bitOffset: number(0, 7),
  bitLength: number(1, 8),
  initial: fc.constantFrom('0', '-5', '18446744073709551615', '1.5'),
  allowed: fc.constantFrom('', '0..7', '1 3 5..9'),
  changeable: fc.boolean(),
  visible: fc.boolean(),
  help: fc.oneof(fc.constant(''), anyText),
  length: fc.constant(null),
  labels,
});
const record: fc.Arbitrary<GsdmlRecord> = fc.record({
  index: number(0, 0x7fff),
  bytes: number(16, 64),
  name: anyText,
  sequence: number(0, 9),
  constants: fc.array(
    fc.record({ byteOffset: number(0, 15), data: fc.constantFrom('00', '01 FF', 'AB CD EF 10') }),
    { maxLength: 2 },
  ),
  parameters: fc.array(parameter, { maxLength: 3 }),
});
const submodule = (id: string): fc.Arbitrary<GsdmlSubmodule> =>
  fc.record({
    id: fc.constant(id),
    identNumber: number(1, 0xffff_ffff),
    name: anyText,
    text: fc.constant(''),
    fixedIn: fc.constant([]),
    input: fc.option(data, { nil: null }),
    output: fc.option(data, { nil: null }),
    records: fc.array(record, { maxLength: 2 }),
    profisafe: fc.boolean(),
    fParameters: fc.constantFrom([], [{ name: 'F_SIL.DefaultValue', text: 'SIL3' }]),
    channelDiagnosis: fc.uniqueArray(
      fc.record({ errorType: number(16, 0x7fff), name: anyText, help: fc.constant('') }),
      { selector: (d) => d.errorType, maxLength: 2 },
    ),
  });
const model = fc.record({
  vendorId: number(1, 0xffff),
  deviceId: number(1, 0xffff),
  vendorName: anyText,
  submodules: fc.tuple(submodule('S_0'), submodule('S_1')),
  identNumber: number(1, 0xffff_ffff),
  hex: fc.boolean(),
});

/** The tree of a model; every text stands in the list of texts, every list of values in that of values. */
function treeOf(m: typeof model extends fc.Arbitrary<infer M> ? M : never): Node {
  const texts: Node[] = [];
  const values: Node[] = [];
  const idOf = (value: string): string => {
    texts.push(node('Text', { TextId: `T_${texts.length}`, Value: value }));
    return `T_${texts.length - 1}`;
  };
  const text = (name: string, value: string): Node[] =>
    value === '' ? [] : [node(name, { TextId: idOf(value) })];
  const written = (value: number) => (m.hex ? `0x${value.toString(16)}` : String(value));
  const side = (name: string, given: GsdmlData | null): Node[] =>
    given
      ? [
          node(
            name,
            { Consistency: given.consistency },
            given.items.map((i) =>
              node(
                'DataItem',
                {
                  DataType: i.dataType,
                  TextId: idOf(i.name),
                  ...(sizes[i.dataType as keyof typeof sizes] ? {} : { Length: String(i.bytes) }),
                  ...(i.asBits ? { UseAsBits: 'true' } : {}),
                },
                i.bits.map((b) =>
                  node('BitDataItem', { BitOffset: written(b.offset), TextId: idOf(b.name) }),
                ),
              ),
            ),
          ),
        ]
      : [];
  const valuesOf = (given: GsdmlParameter['labels']): Record<string, string> => {
    if (given.length === 0) return {};
    const id = `VAL_${values.length}`;
    const assigns = given.map((l) => node('Assign', { Content: String(l.value), TextId: idOf(l.text) }));
    values.push(node('ValueItem', { ID: id }, [node('Assignments', {}, assigns)]));
    return { ValueItemTarget: id };
  };
  const recordTree = (r: GsdmlRecord) =>
    node(
      'ParameterRecordDataItem',
      { Index: written(r.index), Length: String(r.bytes), TransferSequence: String(r.sequence) },
      [
        ...text('Name', r.name),
        ...r.constants.map((c) =>
          node('Const', {
            ByteOffset: String(c.byteOffset),
            Data: c.data
              .split(' ')
              .map((pair) => `0x${pair.toLowerCase()}`)
              .join(','),
          }),
        ),
        ...r.parameters.map((p) =>
          node(
            'Ref',
            {
              DataType: p.dataType,
              ByteOffset: written(p.byteOffset),
              BitOffset: String(p.bitOffset),
              BitLength: String(p.bitLength),
              DefaultValue: p.initial,
              ...(p.allowed ? { AllowedValues: p.allowed } : {}),
              Changeable: String(p.changeable),
              Visible: String(p.visible),
              TextId: idOf(p.name),
              ...valuesOf(p.labels),
            },
            text('Help', p.help),
          ),
        ),
      ],
    );
  const submoduleTree = (s: GsdmlSubmodule) =>
    node(
      'VirtualSubmoduleItem',
      {
        ID: s.id,
        SubmoduleIdentNumber: written(s.identNumber),
        ...(s.profisafe ? { PROFIsafeSupported: 'true' } : {}),
      },
      [
        node('IOData', {}, [...side('Input', s.input), ...side('Output', s.output)]),
        node('RecordDataList', {}, [
          ...s.records.map(recordTree),
          ...(s.fParameters.length > 0
            ? [node('F_ParameterRecordDataItem', {}, [node('F_SIL', { DefaultValue: 'SIL3' })])]
            : []),
        ]),
        node(
          'ChannelDiagList',
          {},
          s.channelDiagnosis.map((d) =>
            node('ChannelDiagItem', { ErrorType: written(d.errorType) }, text('Name', d.name)),
          ),
        ),
        node('ModuleInfo', {}, text('Name', s.name)),
      ],
    );
  const access = node(
    'DeviceAccessPointItem',
    { ID: 'DAP', PhysicalSlots: '0..4', ModuleIdentNumber: '0x1', FixedInSlots: '0' },
    [node('UseableModules', {}, [node('ModuleItemRef', { ModuleItemTarget: 'M', AllowedInSlots: '1..4' })])],
  );
  const modules = node('ModuleList', {}, [
    node('ModuleItem', { ID: 'M', ModuleIdentNumber: written(m.identNumber) }, [
      node('ModuleInfo', {}, text('Name', 'module')),
      node('VirtualSubmoduleList', {}, m.submodules.map(submoduleTree)),
    ]),
  ]);
  return node('ISO15745Profile', {}, [
    node('ProfileBody', {}, [
      node('DeviceIdentity', { VendorID: written(m.vendorId), DeviceID: written(m.deviceId) }, [
        node('VendorName', { Value: m.vendorName }),
      ]),
      node('ApplicationProcess', {}, [
        node('DeviceAccessPointList', {}, [access]),
        modules,
        node('ValueList', {}, values),
        node('ExternalTextList', {}, [node('PrimaryLanguage', {}, texts)]),
      ]),
    ]),
  ]);
}

test('a model comes back from any way of writing it; what is strange in the file is kept', () => {
  fc.assert(
    fc.property(model, habits, (m, habit) => {
      const { text, strangers } = roughXml(treeOf(m), habit);
      const { describer, defects } = readGsdml(text);
      const longLabels = m.submodules.some((s) =>
        s.records.some((r) => r.parameters.some((p) => p.labels.some((l) => typeof l.value === 'bigint'))),
      );
      const codes = new Set(defects.map((d) => d.code));
      expect([...codes]).toEqual(longLabels ? ['described.labels'] : []);
      expect(describer.device).toMatchObject({
        vendorId: m.vendorId,
        deviceId: m.deviceId,
        vendorName: m.vendorName,
      });
      expect(describer.modules[0]).toMatchObject({ identNumber: m.identNumber, name: 'module' });
      const { submodules } = describer.modules[0]!;
      // Every attribute of a part of F_Parameters stands under its own name; strange ones as well.
      expect(submodules.map((s) => ({ ...s, fParameters: [] }))).toEqual(
        m.submodules.map((s) => ({ ...s, fParameters: [] })),
      );
      const safety = JSON.stringify(submodules.map((s) => s.fParameters));
      if (m.submodules.some((s) => s.fParameters.length > 0)) expect(safety).toContain('SIL3');
      const kept = safety + JSON.stringify(describer.kept);
      for (const stranger of strangers) expect(kept).toContain(stranger);
      // All of it is shown.
      const facts = gsdmlFacts(describer);
      expect(facts.filter((f) => f.section.startsWith('not understood'))).toHaveLength(keptCount(describer));
      const parameters = m.submodules.flatMap((s) => s.records.flatMap((r) => r.parameters));
      expect(facts.filter((f) => / record \d+: /.test(f.name))).toHaveLength(parameters.length);
    }),
    { numRuns: runs(100), seed: 18 },
  );
});

const keptCount = ({ kept }: Gsdml) => kept.reduce((sum, section) => sum + section.entries.length, 0);
