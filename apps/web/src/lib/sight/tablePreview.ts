import {
  applyEdit,
  check,
  reachOf,
  readTable,
  type Cell,
  type Edit,
  type Finding,
  type Image,
  type ImagePlace,
  type ReadTable,
  type TableReading,
} from '@fadenkreuz/core';

export interface TablePreview extends ReadTable {
  /** The image as it would be. */
  image: Image;
  edit: Edit;
  /** What the checks would say of the image. */
  findings: Finding[];
  /** Ids of the fields that came with the table. */
  taken: ReadonlySet<string>;
}

export interface TableChoice {
  reading: TableReading;
  /** The fields that are there now go. */
  replace: boolean;
  /** The image grows to what the table needs. */
  enlarge: boolean;
}

/** What a table would make of an image; nothing is changed yet. */
export function tablePreview(
  cell: Cell,
  { device, link, image }: ImagePlace,
  rows: string[][],
  { reading, replace, enlarge }: TableChoice,
  newId: () => string,
): TablePreview {
  const table = readTable(rows, reading, image, newId);
  const end = Math.max(
    0,
    ...table.fields.map((f) => Math.ceil(reachOf({ ...image, groups: table.groups }, f) / 8)),
  );
  const edit: Edit & { edit: 'image.arrange' } = {
    edit: 'image.arrange',
    image: image.id,
    title: `take ${table.fields.length} fields from a table into the ${image.direction} image`,
    fields: table.fields,
    removed: replace ? image.fields.map((f) => f.id) : [],
    set: {
      ...(table.groups.length > image.groups.length ? { groups: table.groups } : {}),
      ...(enlarge && end > image.size ? { size: end } : {}),
    },
  };
  // The checks of this one device say all that its image can meet.
  const alone = applyEdit({ ...cell, devices: [{ ...device, links: [link] }] }, edit);
  const next = alone.devices[0]!.links[0]![image.direction];
  return {
    ...table,
    image: next,
    edit,
    findings: check(alone).filter((f) => f.place.image === image.id),
    taken: new Set(table.fields.map((f) => f.id)),
  };
}
