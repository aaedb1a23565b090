import Papa from 'papaparse';
import { allImages } from '../cell/find.js';
import { sceneOf } from '../cell/scene.js';
import type { Cell } from '../cell/model.js';
import { bothSides } from '../layout/address.js';
import { signalsOf } from '../layout/signals.js';
import { identifierOf } from '../entries/identifiers.js';

/** A text that a spreadsheet would take for a formula is marked as text (OWASP, CSV injection). */
const asText = (text: string) => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

/** The signals of a cell as CSV (RFC 4180), a line a field, both sides' addresses. */
export function signalList(cell: Cell): string {
  const rows = allImages(cell).flatMap((place) => {
    const { device, image } = place;
    const scene = sceneOf(cell, place);
    return signalsOf(image).map((field) => {
      const { controller, device: far } = bothSides(scene, field.at);
      return {
        device: asText(device.name),
        designation: asText(device.designation),
        direction: image.direction,
        signal: asText(field.name),
        type: field.type,
        bits: field.bits,
        'controller side': controller.side,
        'controller address': controller.text,
        'direct address': controller.direct,
        'device side': far.side,
        'device address': far.text,
        'device byte': far.byte,
        'device bit': far.bit,
        factor: field.scale ? asText(field.scale.factor) : '',
        offset: field.scale ? asText(field.scale.offset) : '',
        unit: asText(field.unit),
        labels: asText(field.labels.map((l) => `${l.value} = ${l.text}`).join('; ')),
        note: asText(field.note),
      };
    });
  });
  return Papa.unparse(rows, { newline: '\r\n' }) + '\r\n';
}

/** The file name that the signal list of a cell has. */
export const signalListFile = (cell: Cell): string => `${identifierOf(cell.name)}_signals.csv`;
