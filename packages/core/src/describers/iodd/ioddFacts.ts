import type { Fact } from '../fact.js';
import type { Iodd, IoddType } from './iodd.js';

const typeText = ({ kind, bits, ranges, labels }: IoddType) =>
  [
    `${kind} ${bits}`,
    ...ranges.map((r) => `${r.minimum} to ${r.maximum}`),
    labels.map((l) => `${l.value} = ${l.text}`).join(', '),
  ]
    .filter(Boolean)
    .join(', ');

/** What an IODD says, thing by thing. */
export const ioddFacts = ({ document, device, processData, variables, events }: Iodd): Fact[] => [
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
