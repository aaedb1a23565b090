import {
  descriptionByHand,
  firstFree,
  identifierOf,
  protocolById,
  unknownIdentity,
  unknownNameplate,
  type Cell,
  type Device,
  type Direction,
  type LinkOf,
  type ManualLine,
} from '@fadenkreuz/core';

/** What a person enters to add a device by hand. */
export interface NewDevice {
  name: string;
  designation: string;
  kind: Device['kind'];
  maker: string;
  address: string;
  commandInstance: number;
  commandCount: number;
  feedbackInstance: number;
  feedbackCount: number;
  configurationInstance: number;
  /** Bytes per counted unit: the manual may count bytes, 16- or 32-bit elements. */
  unitBytes: number;
  updateMs: number;
}

/** The device with both its images, empty; ids from `newId`. Nothing is checked here: the model does that. */
export function deviceFrom(cell: Cell, entry: NewDevice, newId: () => string): Device {
  const image = <D extends Direction>(direction: D, instance: number, count: number) => ({
    id: newId(),
    instance,
    size: count * entry.unitBytes,
    start: firstFree(cell, direction),
    order: null,
    swapped: false,
    numbering: null,
    groups: [],
    fields: [],
    direction,
  });
  const link = protocolById('ethernet-ip').create({
    id: newId(),
    command: image('command', entry.commandInstance, entry.commandCount),
    feedback: { ...image('feedback', entry.feedbackInstance, entry.feedbackCount), derived: [] },
    update: entry.updateMs * 1000,
  });
  const links = [
    { ...link, configuration: { instance: entry.configurationInstance, data: '' } } as LinkOf<'ethernet-ip'>,
  ];
  return {
    id: newId(),
    name: entry.name.trim(),
    designation: entry.designation.trim(),
    kind: entry.kind,
    maker: entry.maker.trim(),
    ...unknownNameplate,
    serves: '',
    address: entry.address.trim(),
    identity: unknownIdentity,
    description: descriptionByHand(links),
    standIn: null,
    orderSelectable: false,
    links,
  };
}

/** What a manual's line says, taken over into the entries; sizes are bytes then, or whole elements of the same unit. */
export function withLine(
  entry: NewDevice,
  { command, feedback, configuration, rpiMs }: ManualLine,
): NewDevice {
  const sizes = [command?.bytes, feedback?.bytes].filter((b) => b !== undefined);
  const unitBytes = sizes.every((b) => b % entry.unitBytes === 0) ? entry.unitBytes : 1;
  const counted = (bytes: number | undefined, before: number) =>
    bytes === undefined ? (before * entry.unitBytes) / unitBytes : bytes / unitBytes;
  return {
    ...entry,
    unitBytes,
    commandInstance: command?.instance ?? entry.commandInstance,
    commandCount: counted(command?.bytes, entry.commandCount),
    feedbackInstance: feedback?.instance ?? entry.feedbackInstance,
    feedbackCount: counted(feedback?.bytes, entry.feedbackCount),
    configurationInstance: configuration?.instance ?? entry.configurationInstance,
    updateMs: rpiMs ?? entry.updateMs,
  };
}

/** A name that is free: belt_m1 → belt_m2. */
export function freeName(cell: Cell, wanted: string): string {
  const taken = new Set(cell.devices.map((d) => d.name));
  const [, stem = 'device_', number = '1'] = /^(.*?)(\d+)$/.exec(identifierOf(wanted)) ?? [
    undefined,
    wanted,
    '1',
  ];
  for (let n = Number(number); ; n += 1) if (!taken.has(`${stem}${n}`)) return `${stem}${n}`;
}
