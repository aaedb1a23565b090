import { tableCsv } from '../tables/csv.js';
import { allImages } from '../cell/find.js';
import { sceneOf } from '../cell/scene.js';
import type { Cell } from '../cell/model.js';
import { bothSides } from '../layout/address.js';
import { derivedOf } from '../layout/derived.js';
import { fieldAddress } from '../layout/fieldAddress.js';
import { signalsOf } from '../layout/signals.js';
import { identifierOf } from '../entries/identifiers.js';
import { withSafetyNotes } from './safetyNotes.js';

/** The columns in their order; what does not apply stays empty. */
const columns = [
  'device',
  'designation',
  'direction',
  'signal',
  'type',
  'bits',
  'controller side',
  'controller address',
  'direct address',
  'device side',
  'device address',
  'device byte',
  'device bit',
  'factor',
  'offset',
  'unit',
  'minimum',
  'maximum',
  'labels',
  'bit labels',
  'special numbers',
  'computed from',
  'uncertainty',
  'note',
] as const;
type Row = Partial<Record<(typeof columns)[number], string | number>>;

const joined = <T>(values: readonly T[], text: (value: T) => string) => values.map(text).join('; ');

/**
 * The signals of a cell as CSV (RFC 4180), a line a field with both sides' addresses, and behind those of an image a
 * line for each value that is derived from them.
 */
export function signalList(given: Cell): string {
  const cell = withSafetyNotes(given);
  const rows = allImages(cell).flatMap((place): Row[] => {
    const { device, image } = place;
    const scene = sceneOf(cell, place);
    const shared = { device: device.name, designation: device.designation, direction: image.direction };
    const signals = signalsOf(image).map((field): Row => {
      const { controller, device: far } = bothSides(scene, field.at);
      const whole = fieldAddress(scene, field);
      return {
        ...shared,
        signal: field.name,
        type: field.type,
        bits: field.bits,
        'controller side': controller.side,
        'controller address': whole.controller,
        'direct address': whole.direct,
        'device side': far.side,
        'device address': whole.device,
        'device byte': far.byte,
        'device bit': far.bit,
        ...field.scale,
        unit: field.unit,
        minimum: field.limits?.minimum ?? '',
        maximum: field.limits?.maximum ?? '',
        labels: joined(field.labels, (l) => `${l.value} = ${l.text}`),
        'bit labels': joined(field.bitLabels, (l) => `${l.bit} = ${l.text}`),
        'special numbers': joined(field.specials, (s) => `${s.value} = ${s.means}`),
        note: field.note,
      };
    });
    const derived = derivedOf(image).map(({ name, expression, uncertainty, unit, note }): Row => {
      return { ...shared, signal: name, type: 'LREAL', 'computed from': expression, uncertainty, unit, note };
    });
    return [...signals, ...derived];
  });
  return tableCsv([[...columns], ...rows.map((row) => columns.map((column) => String(row[column] ?? '')))]);
}

/** The file name that the signal list of a cell has. */
export const signalListFile = (cell: Cell): string => `${identifierOf(cell.name)}_signals.csv`;
