import type { Field } from '../layout/field.js';
import type { KeptSection } from './shared/described.js';
import { readsOf } from '../layout/fieldTypes.js';
import { shownText } from '../devices/light.js';
import type { Parameter } from '../devices/parameter.js';
import { signalsOf } from '../layout/signals.js';
import type { Device } from '../cell/model.js';
import { placeText } from '../tables/parameterPlace.js';

/** One thing that a describer says, in words; two describers are compared by these. */
export interface Fact {
  /** Command image, feedback image, parameter, module … */
  section: string;
  name: string;
  text: string;
  /** Its name in the file, where it is another; it is not compared. */
  fileName?: string;
  /** Unit and labels: what people enter may differ from it without being wrong. */
  means?: string;
}

type Placed = Pick<
  Field,
  'at' | 'type' | 'bits' | 'unit' | 'labels' | 'bitLabels' | 'scale' | 'limits' | 'sign' | 'sourceName'
>;

/**
 * Where a field lies and how it is read, whatever its type is called: a WORD and 16 plain bits are the same, so are
 * characters and raw bytes.
 */
function bitsText({ at, type, bits, sign }: Pick<Placed, 'at' | 'type' | 'bits' | 'sign'>): string {
  const kinds = {
    boolean: '',
    unsigned: '',
    signed: ' signed',
    float: ' floating',
    bcd: ' BCD',
    text: '',
    bytes: '',
  };
  return `byte ${at >> 3}.${at & 7}, ${bits === 1 ? 'one bit' : `${bits} bits`}${sign?.way === 'complement' ? ' signed' : kinds[readsOf({ type })]}`;
}
type Meaning = Pick<Placed, 'unit' | 'labels'> & Partial<Pick<Placed, 'bitLabels' | 'scale' | 'limits'>>;
const meaningText = ({ unit, labels, bitLabels = [], scale = null, limits = null }: Meaning) =>
  [
    unit,
    scale ? `× ${scale.factor}${scale.offset === '0' ? '' : ` + ${scale.offset}`}` : '',
    limits ? `${limits.minimum ?? '…'} to ${limits.maximum ?? '…'}` : '',
    labels.map((l) => `${l.value} = ${l.text}`).join(', '),
    bitLabels.map((l) => `bit ${l.bit} = ${l.text}`).join(', '),
  ]
    .filter(Boolean)
    .join(', ');
/** A field as a fact. */
export const fieldFact = (section: string, name: string, field: Placed): Fact => ({
  section,
  name,
  ...(field.sourceName ? { fileName: field.sourceName } : {}),
  text: bitsText(field),
  means: meaningText(field),
});

/** What a file says and nothing here understands: it is shown in the file's own words. */
export const keptFacts = (kept: readonly KeptSection[]): Fact[] =>
  kept.flatMap(({ name: section, entries }) =>
    entries.map(({ keyword, fields }) => ({
      section: `not understood: ${section}`,
      name: keyword,
      text: fields.join(', '),
    })),
  );

/** Section of the facts about lights: most descriptions have none. */
export const lightSection = 'light';

/** What a device of the cell says too: a describer says more, as of connections that the device does not use. */
export const sectionsOfDevice: readonly string[] = [
  'identity',
  'command image',
  'feedback image',
  'parameter',
  lightSection,
];

/** A parameter as a fact. */
export const parameterFact = ({
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
    limits ? `${limits.minimum ?? '…'} to ${limits.maximum ?? '…'}` : '',
    initial === null ? '' : `default ${initial}`,
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
  description: { parameters, lights },
}: Pick<Device, 'identity' | 'links' | 'description'>): Fact[] => [
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
  // What is plugged in at its ports is no matter of its own.
  ...parameters.filter(({ place }) => place?.way !== 'port').map(parameterFact),
  ...lights.map((l) => ({ section: lightSection, name: `${l.light}, ${shownText(l)}`, text: l.means })),
];
