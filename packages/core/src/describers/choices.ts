import { firstFree } from '../cell/copies.js';
import type { Cell, Device } from '../cell/model.js';
import type { AnyDescriber } from './anyDescriber.js';
import { deviceOf, type DevicePlace } from './device.js';
import { connectionImages } from './images.js';
import { deviceOfTable } from './table/tableDescriber.js';

/** One way to make a device of a describer. */
export interface Choice {
  id: number;
  title: string;
  command: { size: number; fields: number };
  feedback: { size: number; fields: number };
}

/** The ways to make a device of a describer; none for one that describes no device with an address of its own, or no connection. */
export function choicesOf(describer: AnyDescriber): Choice[] {
  switch (describer.source) {
    case 'eds':
      return connectionImages(describer).map(({ connection, command, feedback }) => ({
        id: connection.number,
        title: connection.name || `Connection${connection.number}`,
        command: { size: command.size, fields: command.fields.length },
        feedback: { size: feedback.size, fields: feedback.fields.length },
      }));
    case 'table':
      return describer.device.links.slice(0, 1).map(({ command, feedback }) => ({
        id: 1,
        title: 'as it was laid out',
        command: { size: command.size, fields: command.fields.length },
        feedback: { size: feedback.size, fields: feedback.fields.length },
      }));
    case 'gsdml':
    case 'iodd':
      return [];
  }
}

/** A device of the cell made of a describer; undefined when it does not have this choice. Ids come from `newId`. */
export function deviceOfChoice(
  describer: AnyDescriber,
  choice: number,
  cell: Cell,
  place: Pick<DevicePlace, 'name' | 'address'>,
  newId: () => string,
): Device | undefined {
  if (describer.source === 'table') return deviceOfTable(describer, cell, place, newId);
  if (describer.source !== 'eds') return undefined;
  const whole = {
    ...place,
    commandStart: firstFree(cell, 'command'),
    feedbackStart: firstFree(cell, 'feedback'),
  };
  return deviceOf(describer, choice, whole, newId);
}
