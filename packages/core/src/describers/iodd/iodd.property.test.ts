import fc from 'fast-check';
import { expect, test } from 'vitest';
import { anyText, habits, node, roughXml, type Node } from '../shared/testXml.js';
import type { Iodd, IoddItem, IoddShown, IoddType, IoddVariable } from './iodd.js';
import { ioddFacts } from './ioddFacts.js';
import { readIodd } from './readIodd.js';
import { runs } from '../../testRuns.js';

/** Random models, written as IODD 1.1 has them (schema from memory) and in the habits of other programs. */

const number = (min: number, max: number) => fc.integer({ min, max });
const hexOrDecimal = fc.boolean();
const exact = fc.oneof(
  number(-0x8000_0000, 0xffff_ffff),
  fc.bigInt({ min: 2n ** 53n, max: 2n ** 64n - 1n }),
  fc.bigInt({ min: -(2n ** 63n), max: -(2n ** 53n) }),
);
const ranges = fc.array(fc.record({ minimum: exact, maximum: exact }), { maxLength: 2 });
const labels = fc.uniqueArray(fc.record({ value: number(0, 255), text: anyText }), {
  selector: (l) => l.value,
  maxLength: 4,
});
const simple: fc.Arbitrary<IoddType> = fc.oneof(
  fc.record({
    kind: fc.constantFrom('uint' as const, 'int' as const),
    bits: number(2, 64),
    ranges,
    labels,
    items: fc.constant<IoddItem[]>([]),
  }),
  fc.constant<IoddType>({ kind: 'boolean', bits: 1, ranges: [], labels: [], items: [] }),
  fc.record({
    kind: fc.constant('float' as const),
    bits: fc.constant(32),
    ranges: fc.constantFrom<IoddType['ranges'][]>(
      [],
      [{ minimum: -3.402823e38, maximum: 3.402823e38 }],
      [{ minimum: -0.5, maximum: 1e-6 }],
    ),
    labels: fc.constant<IoddType['labels']>([]),
    items: fc.constant<IoddItem[]>([]),
  }),
  number(1, 32).map((bytes): IoddType => ({
    kind: bytes % 2 ? 'string' : 'octets',
    bits: bytes * 8,
    ranges: [],
    labels: [],
    items: [],
  })),
);
const shown: fc.Arbitrary<IoddShown | null> = fc.option(
  fc.record({
    gradient: fc.constantFrom('0.1', '0.01', '2'),
    offset: fc.constantFrom('0', '-40', '0.5'),
    unit: fc.constant('°C'),
    format: fc.constantFrom('', 'Dec.1', 'Hex'),
  }),
  { nil: null },
);
const record = fc
  .array(
    fc.record({
      type: simple,
      name: anyText,
      help: fc.oneof(fc.constant(''), anyText),
      shown,
      gap: number(0, 3),
    }),
    {
      minLength: 1,
      maxLength: 5,
    },
  )
  .map((parts): IoddType => {
    let at = 0;
    const items = parts.map(({ type, name, help, shown, gap }, i): IoddItem => {
      const item = { subindex: i + 1, bitOffset: at, name, help, type, initial: '', shown };
      at += type.bits + gap;
      return item;
    });
    return { kind: 'record', bits: at, ranges: [], labels: [], items };
  });
const variable = (n: number): fc.Arbitrary<IoddVariable> =>
  fc.record({
    id: fc.constant(`V_${n}`),
    index: number(64, 9999),
    name: anyText,
    help: fc.oneof(fc.constant(''), anyText),
    access: fc.constantFrom('ro' as const, 'rw' as const, 'wo' as const),
    type: simple,
    initial: fc.constantFrom('', '0', '18446744073709551615'),
    standard: fc.constant(false),
    shown: fc.constant(null),
  });
const model = fc.record({
  device: fc.record({
    vendorId: number(1, 0xffff),
    deviceId: number(1, 0xff_ffff),
    vendorName: anyText,
    name: anyText,
  }),
  input: record,
  output: fc.option(record, { nil: null }),
  variables: fc.tuple(variable(1), variable(2), variable(3)),
  events: fc.uniqueArray(fc.record({ code: number(0x1800, 0x18ff), name: anyText }), {
    selector: (e) => e.code,
    maxLength: 3,
  }),
  hex: hexOrDecimal,
});

const typeNames = {
  uint: 'UIntegerT',
  int: 'IntegerT',
  boolean: 'BooleanT',
  float: 'Float32T',
  string: 'StringT',
  octets: 'OctetStringT',
  record: 'RecordT',
};

/** The tree of a model; every text stands in the collection of texts. */
function treeOf(m: typeof model extends fc.Arbitrary<infer M> ? M : never): Node {
  const texts: Node[] = [];
  const text = (name: string, value: string): Node[] => {
    if (value === '') return [];
    const id = `T_${texts.length}`;
    texts.push(node('Text', { id, value }));
    return [node(name, { textId: id })];
  };
  const written = (value: number) => (m.hex && value >= 0 ? `0x${value.toString(16)}` : String(value));
  const dataType = (name: string, type: IoddType): Node =>
    node(
      name,
      {
        'xsi:type': typeNames[type.kind as keyof typeof typeNames],
        ...(['uint', 'int', 'record'].includes(type.kind) ? { bitLength: written(type.bits) } : {}),
        ...(['string', 'octets'].includes(type.kind) ? { fixedLength: String(type.bits / 8) } : {}),
      },
      [
        ...type.ranges.map((r) =>
          node('ValueRange', { lowerValue: String(r.minimum), upperValue: String(r.maximum) }),
        ),
        ...type.labels.map((l) => node('SingleValue', { value: String(l.value) }, text('Name', l.text))),
        ...type.items.map((i) =>
          node('RecordItem', { subindex: written(i.subindex), bitOffset: String(i.bitOffset) }, [
            dataType('SimpleDatatype', i.type),
            ...text('Name', i.name),
            ...text('Description', i.help),
          ]),
        ),
      ],
    );
  const data = (name: string, id: string, type: IoddType | null) =>
    type
      ? [node(name, { id, bitLength: String(type.bits) }, [dataType('Datatype', type), ...text('Name', id)])]
      : [];
  const shownOf = (id: string, type: IoddType | null) =>
    type
      ? [
          node(
            'ProcessDataRef',
            { processDataId: id },
            type.items.flatMap(({ subindex, shown }) =>
              shown
                ? [
                    node('ProcessDataRecordItemInfo', {
                      subindex: String(subindex),
                      gradient: shown.gradient,
                      offset: shown.offset,
                      unitCode: '1001',
                      ...(shown.format ? { displayFormat: shown.format } : {}),
                    }),
                  ]
                : [],
            ),
          ),
        ]
      : [];
  const body = node('ProfileBody', {}, [
    node(
      'DeviceIdentity',
      {
        vendorId: written(m.device.vendorId),
        deviceId: written(m.device.deviceId),
        vendorName: m.device.vendorName,
      },
      text('DeviceName', m.device.name),
    ),
    node('DeviceFunction', {}, [
      node(
        'VariableCollection',
        {},
        m.variables.map((v) =>
          node(
            'Variable',
            {
              id: v.id,
              index: written(v.index),
              accessRights: v.access,
              ...(v.initial ? { defaultValue: v.initial } : {}),
            },
            [dataType('Datatype', v.type), ...text('Name', v.name), ...text('Description', v.help)],
          ),
        ),
      ),
      node('ProcessDataCollection', {}, [
        node('ProcessData', { id: 'P' }, [
          ...data('ProcessDataIn', 'P_in', m.input),
          ...data('ProcessDataOut', 'P_out', m.output),
        ]),
      ]),
      node(
        'EventCollection',
        {},
        m.events.map((e) => node('Event', { code: written(e.code), type: 'Warning' }, text('Name', e.name))),
      ),
      node('UserInterface', {}, [
        node('ProcessDataRefCollection', {}, [...shownOf('P_in', m.input), ...shownOf('P_out', m.output)]),
      ]),
    ]),
  ]);
  return node('IODevice', {}, [
    node('DocumentInfo', { version: 'V1.1' }),
    body,
    node('ExternalTextCollection', {}, [node('PrimaryLanguage', { 'xml:lang': 'en' }, texts)]),
  ]);
}

test('a model comes back from any way of writing it; what is strange in the file is kept', () => {
  fc.assert(
    fc.property(model, habits, (m, habit) => {
      const { text, strangers } = roughXml(treeOf(m), habit);
      const { describer, defects } = readIodd(text);
      expect(defects.filter((d) => d.code !== 'described.limits')).toEqual([]);
      expect(describer.device).toMatchObject(m.device);
      expect(describer.processData[0]!.input!.type).toEqual(m.input);
      expect(describer.processData[0]!.output?.type ?? null).toEqual(m.output);
      expect(describer.variables).toEqual(m.variables);
      expect(describer.events.map(({ code, name }) => ({ code, name }))).toEqual(m.events);
      const kept = JSON.stringify(describer.kept);
      for (const stranger of strangers) expect(kept).toContain(stranger);
      expect(keptCount(describer)).toBe(strangers.length + Math.floor(strangers.length / 2));
      // What is kept is shown, and every item of the process data is a field, a parameter or an event.
      const facts = ioddFacts(describer);
      expect(facts.filter((f) => f.section.startsWith('not understood'))).toHaveLength(keptCount(describer));
      const items = m.input.items.length + (m.output?.items.length ?? 0);
      expect(facts.filter((f) => /^process data P/.test(f.section))).toHaveLength(items);
      expect(facts.filter((f) => f.section === 'parameter')).toHaveLength(3);
    }),
    { numRuns: runs(100), seed: 18 },
  );
});

const keptCount = ({ kept }: Iodd) => kept.reduce((sum, section) => sum + section.entries.length, 0);
