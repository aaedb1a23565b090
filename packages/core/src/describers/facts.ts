import type { Field } from '../layout/field.js';
import type { Device } from '../cell/model.js';
import { shownText } from '../devices/light.js';
import type { Parameter } from '../devices/parameter.js';
import { readsOf } from '../layout/fieldTypes.js';
import { signalsOf } from '../layout/signals.js';
import { placeText } from '../tables/parameterPlace.js';
import type { AnyDescriber } from './anyDescriber.js';
import type { Describer } from './describer.js';
import type { Gsdml, GsdmlSubmodule } from './gsdml/gsdml.js';
import { connectionImages } from './images.js';
import type { Iodd, IoddType } from './iodd/iodd.js';
import { parametersOf } from './parameters.js';

/** One thing that a describer says, in words; two describers are compared by these. */
export interface Fact {
  /** Command image, feedback image, parameter, module … */
  section: string;
  name: string;
  text: string;
  /** Unit and labels: what people enter may differ from it without being wrong. */
  means?: string;
}

type Placed = Pick<Field, 'at' | 'type' | 'bits' | 'unit' | 'labels'>;

/** Where a field lies and how it is read, whatever its type is called: a WORD and 16 plain bits are the same, so are characters and raw bytes. */
function bitsText({ at, type, bits }: Placed): string {
  const kinds = {
    boolean: '',
    unsigned: '',
    signed: ' signed',
    float: ' floating',
    bcd: ' BCD',
    text: '',
    bytes: '',
  };
  return `byte ${at >> 3}.${at & 7}, ${bits === 1 ? 'one bit' : `${bits} bits`}${kinds[readsOf({ type })]}`;
}
const meaningText = ({ unit, labels }: Pick<Placed, 'unit' | 'labels'>) =>
  [unit, labels.map((l) => `${l.value} = ${l.text}`).join(', ')].filter(Boolean).join(', ');
const fieldFact = (section: string, name: string, field: Placed): Fact => ({
  section,
  name,
  text: bitsText(field),
  means: meaningText(field),
});

const lightSection = 'light';

const parameterFact = ({
  name,
  place,
  type,
  bits,
  access,
  limits,
  initial,
  unit,
  labels,
}: Parameter): Fact => ({
  section: 'parameter',
  name,
  text: [
    placeText(place),
    type === 'BITS' || type === 'BYTES' || type === 'STRING' ? `${type} of ${bits} bits` : type,
    limits ? `${limits.least ?? '…'} to ${limits.most ?? '…'}` : '',
    initial === null ? '' : `at first ${initial}`,
    access,
  ]
    .filter(Boolean)
    .join(', '),
  means: meaningText({ unit, labels }),
});

/** Images, fields and parameters of a device, as its describer would say them. */
export const factsOfDevice = ({
  identity,
  links,
  parameters,
  lights,
}: Pick<Device, 'identity' | 'links' | 'parameters' | 'lights'>): Fact[] => [
  { section: 'identity', name: 'revision', text: `${identity.majorRevision}.${identity.minorRevision}` },
  ...links
    .slice(0, 1)
    .flatMap((link) =>
      (['command', 'feedback'] as const).flatMap((side) => [
        { section: `${side} image`, name: 'instance', text: String(link[side].instance) },
        { section: `${side} image`, name: 'size', text: `${link[side].size} bytes` },
        ...signalsOf(link[side]).map((s) => fieldFact(`${side} image`, s.name, s)),
      ]),
    ),
  ...parameters.map(parameterFact),
  ...lights.map((l) => ({ section: lightSection, name: `${l.light}, ${shownText(l)}`, text: l.means })),
];

function factsOfEds(describer: Describer): Fact[] {
  const { device } = describer;
  const [first] = connectionImages(describer);
  return [
    { section: 'identity', name: 'revision', text: `${device.majorRevision}.${device.minorRevision}` },
    ...(first
      ? (['command', 'feedback'] as const).flatMap((side) => [
          { section: `${side} image`, name: 'instance', text: String(first[side].instance) },
          { section: `${side} image`, name: 'size', text: `${first[side].size} bytes` },
          ...first[side].fields.map((f) => fieldFact(`${side} image`, f.name, f)),
        ])
      : []),
    ...parametersOf(describer, () => 'described').map(parameterFact),
  ];
}

const typeText = ({ kind, bits, ranges, labels }: IoddType) =>
  [
    `${kind} ${bits}`,
    ...ranges.map((r) => `${r.least} to ${r.most}`),
    labels.map((l) => `${l.value} = ${l.text}`).join(', '),
  ]
    .filter(Boolean)
    .join(', ');

const factsOfIodd = ({ document, device, processData, variables, events }: Iodd): Fact[] => [
  { section: 'identity', name: 'revision', text: document.version },
  ...device.variants.map((v) => ({ section: 'variant', name: v.productId, text: v.text })),
  ...processData.flatMap((data) =>
    ([data.input, data.output] as const).flatMap((side) =>
      side
        ? [
            { section: 'process data', name: side.id, text: `${side.bits} bits` },
            ...side.type.items.map((item) => ({
              section: `process data ${side.id}`,
              name: item.name,
              text: `bit ${item.bitOffset}, ${typeText(item.type)}`,
            })),
          ]
        : [],
    ),
  ),
  ...variables.map((v) => ({
    section: 'parameter',
    name: v.name || v.id,
    text: `index ${v.index}, ${v.access}, ${typeText(v.type)}`,
  })),
  // What the device says by its events is the nearest that an IODD has to a light.
  ...events.map((e) => ({
    section: 'event',
    name: `16#${e.code.toString(16).toUpperCase()}`,
    text: `${e.type}: ${e.name}`,
  })),
];

const submoduleFacts = (section: string, s: GsdmlSubmodule): Fact[] => [
  ...(['input', 'output'] as const).flatMap((side) => {
    const data = s[side];
    if (!data) return [];
    const items = data.items.map((i) => `${i.name} ${i.dataType}`).join(', ');
    return [{ section, name: `${s.name} ${side}`, text: `${data.bytes} bytes: ${items}` }];
  }),
  ...s.records.map((r) => ({
    section,
    name: `${s.name} record ${r.index}`,
    text: r.parameters.map((p) => `${p.name} at ${p.byteOffset}`).join(', '),
  })),
];

const factsOfGsdml = ({ accessPoints, modules, submodules }: Gsdml): Fact[] => [
  ...accessPoints.flatMap((a) => [
    { section: 'access point', name: a.name || a.id, text: `${a.orderNumber} ${a.softwareRelease}`.trim() },
    ...a.submodules.flatMap((s) => submoduleFacts(`access point ${a.name || a.id}`, s)),
  ]),
  ...modules.flatMap((m) => [
    { section: 'module', name: m.name || m.id, text: `16#${m.identNumber.toString(16).toUpperCase()}` },
    ...m.submodules.flatMap((s) => submoduleFacts(`module ${m.name || m.id}`, s)),
  ]),
  ...submodules.flatMap((s) => submoduleFacts('submodule', s)),
];

/** What a describer says, thing by thing. */
export function factsOf(describer: AnyDescriber): Fact[] {
  switch (describer.source) {
    case 'eds':
      return factsOfEds(describer);
    case 'iodd':
      return factsOfIodd(describer);
    case 'gsdml':
      return factsOfGsdml(describer);
    case 'table':
      return factsOfDevice(describer.device);
  }
}

export interface FactChange {
  section: string;
  name: string;
  /** Null: it was not there; null: it is gone. */
  before: string | null;
  after: string | null;
}

const wholeText = ({ text, means }: Fact) => (means ? `${text}, ${means}` : text);

/** What differs from one list of facts to another, in the order of the first, then what is new. */
export function factChanges(
  before: readonly Fact[],
  after: readonly Fact[],
  textOf: (fact: Fact) => string = wholeText,
): FactChange[] {
  // A data sheet writes spot_1.x as spot_1_x.
  const keyOf = ({ section, name }: Fact) =>
    `${section}\n${name.toLowerCase().replace(/\W+/g, '_').replace(/_$/, '')}`;
  const then = new Map(after.map((f) => [keyOf(f), f]));
  const known = new Set(before.map(keyOf));
  return [
    ...before.flatMap((fact) => {
      const now = then.get(keyOf(fact));
      const { section, name } = fact;
      if (now && textOf(now) === textOf(fact)) return [];
      return [{ section, name, before: textOf(fact), after: now ? textOf(now) : null }];
    }),
    ...after
      .filter((f) => !known.has(keyOf(f)))
      .map((f) => ({ section: f.section, name: f.name, before: null, after: textOf(f) })),
  ];
}

/**
 * What would change for a device of a cell with this describer: its revision, its images, where its signals lie, its parameters, what its
 * lights mean. Most forms of description know of no lights; then nothing is said of them.
 */
export function changesForDevice(device: Device, describer: AnyDescriber): FactChange[] {
  const after = factsOf(describer);
  const lit = after.some((f) => f.section === lightSection);
  const before = factsOfDevice(device).filter((f) => lit || f.section !== lightSection);
  return factChanges(before, after, (fact) => fact.text);
}
