import {
  applyEdit,
  check,
  proposeRoles,
  reachOf,
  readTable,
  rolesOfKind,
  type Cell,
  type Device,
  type Edit,
  type Field,
  type Finding,
  type Image,
  type ImagePlace,
  type ReadTable,
  type RoleProposal,
  type TableReading,
} from '@fadenkreuz/core';
import { takeRoles } from './fieldEdits.js';

export interface TablePreview extends ReadTable {
  /** The image as it would be. */
  image: Image;
  edit: Edit;
  /** What the checks would say of the image. */
  findings: Finding[];
  /** Roles that the names of these fields say, those that need nobody's judgement. */
  roles: readonly RoleProposal[];
  /** Ids of the fields that came with the table. */
  taken: ReadonlySet<string>;
}

export interface TableChoice {
  reading: TableReading;
  /** The fields that are there now go. */
  replace: boolean;
  /** Fields get the roles that their names say. */
  roles: boolean;
  /** The image grows to what the table needs. */
  enlarge: boolean;
}

/** Sure proposals for the fields of a table, beside those that the image has. */
const rolesOf = (device: Device, image: Image, kept: readonly Field[], table: ReadTable): RoleProposal[] =>
  proposeRoles({ ...image, fields: [...kept, ...table.fields] }, rolesOfKind(device.kind).usual).filter(
    (p) => !p.ask,
  );

/** What a table would make of an image; nothing is changed yet. */
export function tablePreview(
  cell: Cell,
  { device, link, image }: ImagePlace,
  rows: string[][],
  { reading, replace, enlarge, roles: withRoles }: TableChoice,
  newId: () => string,
): TablePreview {
  const table = readTable(rows, reading, image, newId);
  const end = Math.max(0, ...table.fields.map((f) => Math.ceil(reachOf({ ...image }, f) / 8)));
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
  const taken = new Set(table.fields.map((f) => f.id));
  const roles = rolesOf(device, image, replace ? [] : image.fields, table).filter((p) => taken.has(p.field));
  if (withRoles && roles.length > 0)
    edit.fields = takeRoles({ ...image, fields: table.fields }, roles, true).fields;
  // The checks of this one device say all that its image can meet.
  const alone = applyEdit({ ...cell, devices: [{ ...device, links: [link] }] }, edit);
  const next = alone.devices[0]!.links[0]![image.direction];
  return {
    ...table,
    image: next,
    edit,
    roles,
    findings: check(alone).filter((f) => f.place.image === image.id),
    taken,
  };
}
