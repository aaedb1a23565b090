import { fieldFact, keptFacts, type Fact } from '../fact.js';
import type { Iodd, IoddShown, IoddType } from './iodd.js';
import { processDataFields } from './ioddFields.js';

const typeText = ({ kind, bits, ranges, labels }: IoddType) =>
  [
    // What is no run of bits has no length of its own here.
    bits > 0 ? `${kind} of ${bits} bits` : kind,
    ...ranges.map((r) => `${r.minimum ?? '…'} to ${r.maximum ?? '…'}`),
    labels.map((l) => `${l.value} = ${l.text}`).join(', '),
  ]
    .filter(Boolean)
    .join(', ');

const shownText = (shown: IoddShown | null) =>
  shown
    ? [
        '',
        shown.gradient === '1' ? '' : `× ${shown.gradient}`,
        shown.offset === '0' ? '' : `+ ${shown.offset}`,
        shown.unit,
      ]
        .filter((part, i) => i === 0 || part)
        .join(', ')
    : '';

/** What an IODD says, thing by thing. */
export const ioddFacts = ({
  document,
  device,
  processData,
  variables,
  events,
  errors,
  kept,
}: Iodd): Fact[] => [
  { section: 'identity', name: 'revision', text: document.version },
  ...device.variants.map((v) => ({ section: 'variant', name: v.productId, text: v.text })),
  ...processData.flatMap((data) =>
    ([data.input, data.output] as const).flatMap((side) =>
      side
        ? [
            { section: 'process data', name: side.id, text: `${side.bits} bits` },
            ...side.type.items.map((item) => ({
              section: `process data ${side.id}`,
              name: item.name || `element ${item.subindex}`,
              text: `bit ${item.bitOffset}, ${typeText(item.type)}${shownText(item.shown)}`,
            })),
            ...processDataFields(side, 0, () => 'described').map((f) =>
              fieldFact(`laid out ${side.id}`, f.name, f),
            ),
          ]
        : [],
    ),
  ),
  ...variables.map((v) => ({
    section: 'parameter',
    name: v.name || v.id,
    text: `index ${v.index}, ${v.access}, ${typeText(v.type)}${v.initial && `, default ${v.initial}`}${shownText(v.shown)}`,
  })),
  // What the device says by its events is the nearest that an IODD has to a light.
  ...events.map((e) => ({
    section: 'event',
    name: `16#${e.code.toString(16).toUpperCase()}`,
    text: `${e.type}: ${e.name}`,
  })),
  ...errors.map((e) => ({
    section: 'error',
    name: `16#${(e.code * 256 + e.additionalCode).toString(16).toUpperCase()}`,
    text: e.name,
  })),
  ...keptFacts(kept),
];
