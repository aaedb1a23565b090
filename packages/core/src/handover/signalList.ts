import { tableCsv } from '../tables/csv.js';
import { allImages } from '../cell/find.js';
import { sceneOf } from '../cell/scene.js';
import type { Cell } from '../cell/model.js';
import { bothSides } from '../layout/address.js';
import { fieldAddress } from '../layout/fieldAddress.js';
import { signalsOf } from '../layout/signals.js';
import { identifierOf } from '../entries/identifiers.js';

/** The signals of a cell as CSV (RFC 4180), a line a field, both sides' addresses. */
export function signalList(cell: Cell): string {
  const rows = allImages(cell).flatMap((place) => {
    const { device, image } = place;
    const scene = sceneOf(cell, place);
    return signalsOf(image).map((field) => {
      const { controller, device: far } = bothSides(scene, field.at);
      const whole = fieldAddress(scene, field);
      return {
        device: device.name,
        designation: device.designation,
        direction: image.direction,
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
        factor: field.scale ? field.scale.factor : '',
        offset: field.scale ? field.scale.offset : '',
        unit: field.unit,
        labels: field.labels.map((l) => `${l.value} = ${l.text}`).join('; '),
        note: field.note,
      };
    });
  });
  const titles = Object.keys(rows[0] ?? {});
  return tableCsv([titles, ...rows.map((row) => Object.values(row).map(String))]);
}

/** The file name that the signal list of a cell has. */
export const signalListFile = (cell: Cell): string => `${identifierOf(cell.name)}_signals.csv`;
