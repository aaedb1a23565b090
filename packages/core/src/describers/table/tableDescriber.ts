import { z } from 'zod';
import { allRenewed } from '../../cell/copies.js';
import { Device, type Cell } from '../../cell/model.js';
import { deviceFromVersion2, deviceFromVersion3, deviceFromVersion4 } from '../../cell/upgrade.js';
import { parseInput, parseJson } from '../../entries/parse.js';
import type { Described, DescribedBase } from '../shared/described.js';
import type { DevicePlace } from '../describer.js';

/**
 * A describer of our own: a device as a person laid it out from the table of a manual, without its place in a cell. It
 * keeps all that a data sheet cannot say: sign bits, decimal points in other fields, groups, register blocks.
 */
const Template = Device.omit({
  id: true,
  name: true,
  designation: true,
  serves: true,
  address: true,
  mac: true,
  serialNumber: true,
});

const format = 'fadenkreuz-describer';
const version = 4;

export const TableDescriberFile = z.strictObject({
  $schema: z.string().max(200).optional(),
  format: z.literal(format),
  version: z.literal(version),
  /** Where it comes from: manual, issue, page. */
  origin: z.string().max(200).default(''),
  device: Template,
});

export interface TableDescriber extends DescribedBase {
  source: 'table';
  origin: string;
  device: z.infer<typeof Template>;
}

/** Whether a text calls itself a describer of ours. */
export const isTableDescriber = (text: string): boolean =>
  new RegExp(`"format"\\s*:\\s*"${format}"`).test(text.slice(0, 4000));

/** Reads such a file. Throws `file.notJson`, `input.invalid` with the place. */
export function readTableDescriber(text: string): Described<TableDescriber> {
  const data = parseJson(text.replace(/^\ufeff/, ''));
  const { origin, device } = parseInput(TableDescriberFile, upgraded(data), 'describer');
  return { describer: { source: 'table', origin, device, kept: [] }, defects: [] };
}

/** Versions 1 to 3 had devices as versions 2 to 4 of the cell file have them. */
const upgraded = (data: unknown): unknown => {
  const file = data as { version?: unknown; device?: unknown } | null;
  const upgrades = [deviceFromVersion2, deviceFromVersion3, deviceFromVersion4];
  if (typeof file?.version !== 'number' || !upgrades[file.version - 1]) return data;
  const device = upgrades.slice(file.version - 1).reduce((known, upgrade) => upgrade(known), file.device);
  return { ...file, version, device };
};

/** The text of such a file. */
export const writeTableDescriber = ({ origin, device }: TableDescriber): string =>
  JSON.stringify({ format, version, origin, device }, null, 2) + '\n';

/** A device of a cell as a describer. */
export function tableDescriberOf(device: Device, origin = ''): TableDescriber {
  const template = Template.parse(
    Object.fromEntries(Object.entries(device).filter(([key]) => Object.hasOwn(Template.shape, key))),
  );
  return { source: 'table', origin, device: template, kept: [] };
}

/** A device made from a describer; its images behind all others of the cell, new ids throughout. */
export const deviceOfTable = (
  { device }: TableDescriber,
  cell: Cell,
  place: DevicePlace,
  newId: () => string,
): Device =>
  allRenewed(
    cell,
    { ...device, ...place, id: '', designation: '', serves: '', mac: '', serialNumber: null },
    newId,
  );

/** The published JSON Schema of the file (2020-12). */
export const tableDescriberSchema = (): object => ({
  $id: `${format}-${version}`,
  title: `Fadenkreuz describer, version ${version}`,
  ...z.toJSONSchema(TableDescriberFile, { io: 'input' }),
});
