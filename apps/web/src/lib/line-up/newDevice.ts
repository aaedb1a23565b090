import {
  descriptionByHand,
  firstFree,
  protocolById,
  unknownIdentity,
  unknownNameplate,
  type Cell,
  type Device,
  type Direction,
  type Link,
  type LinkOf,
  type ManualLine,
} from '@fadenkreuz/core';

/** Protocols by which a device is added by hand: what its manual's table names differs. */
export const protocolsByHand = ['ethernet-ip', 'modbus-tcp'] as const;

/** What a person enters to add a device by hand. */
export interface NewDevice {
  name: string;
  designation: string;
  kind: Device['kind'];
  maker: string;
  address: string;
  protocol: (typeof protocolsByHand)[number];
  commandInstance: number;
  commandCount: number;
  feedbackInstance: number;
  feedbackCount: number;
  configurationInstance: number;
  /** Bytes per counted unit: the manual may count bytes, 16- or 32-bit elements. */
  unitBytes: number;
  /** Runs of registers: first address on the wire, and how many. */
  commandStart: number;
  commandRegisters: number;
  feedbackTable: 'holding' | 'input';
  feedbackStart: number;
  feedbackRegisters: number;
  updateMs: number;
}

/** The device with both its images, empty; ids from `newId`. Nothing is checked here: the model does that. */
export function deviceFrom(cell: Cell, entry: NewDevice, newId: () => string): Device {
  const links = [linksByHand[entry.protocol](cell, entry, newId)];
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
    simulated: false,
    orderSelectable: false,
    links,
  };
}

type MakesLink = (cell: Cell, entry: NewDevice, newId: () => string) => Link;

const emptyImage = <D extends Direction>(
  cell: Cell,
  direction: D,
  { instance, size }: { instance: number; size: number },
  newId: () => string,
) => ({
  ...{ id: newId(), instance, size, start: firstFree(cell, direction) },
  ...{ order: null, swapped: false, numbering: null, groups: [], fields: [], direction },
});

const linksByHand: Record<NewDevice['protocol'], MakesLink> = {
  'ethernet-ip': (cell, entry, newId) => {
    const { commandInstance, commandCount, feedbackInstance, feedbackCount, unitBytes } = entry;
    const command = { instance: commandInstance, size: commandCount * unitBytes };
    const feedback = { instance: feedbackInstance, size: feedbackCount * unitBytes };
    return {
      ...protocolById('ethernet-ip').create({
        id: newId(),
        command: emptyImage(cell, 'command', command, newId),
        feedback: { ...emptyImage(cell, 'feedback', feedback, newId), derived: [] },
        update: entry.updateMs * 1000,
      }),
      configuration: { instance: entry.configurationInstance, data: '' },
    } as LinkOf<'ethernet-ip'>;
  },
  'modbus-tcp': (cell, entry, newId) => {
    const { commandStart, commandRegisters, feedbackTable, feedbackStart, feedbackRegisters } = entry;
    // Registers come high byte first (Modbus Application Protocol V1.1b3, 4.2).
    const image = <D extends Direction>(direction: D, registers: number) => ({
      ...emptyImage(cell, direction, { instance: 1, size: registers * 2 }, newId),
      order: 'big' as const,
    });
    const block = { at: 0, poll: entry.updateMs * 1000, fresh: null, age: null };
    return {
      ...protocolById('modbus-tcp').create({
        id: newId(),
        command: image('command', commandRegisters),
        feedback: { ...image('feedback', feedbackRegisters), derived: [] },
        update: entry.updateMs * 1000,
      }),
      blocks: [
        ...(commandRegisters > 0
          ? [
              {
                ...block,
                id: newId(),
                name: 'commands',
                direction: 'command' as const,
                table: 'holding' as const,
                start: commandStart,
                count: commandRegisters,
              },
            ]
          : []),
        ...(feedbackRegisters > 0
          ? [
              {
                ...block,
                id: newId(),
                name: 'feedback',
                direction: 'feedback' as const,
                table: feedbackTable,
                start: feedbackStart,
                count: feedbackRegisters,
              },
            ]
          : []),
      ],
    } as LinkOf<'modbus-tcp'>;
  },
};

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
