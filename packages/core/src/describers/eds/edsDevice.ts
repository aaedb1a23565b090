import { nothingSaid } from '../../protocols/link.js';
import type { DevicePlace } from '../describer.js';
import { kindOfText } from '../../devices/kinds.js';
import type { LinkOf } from '../../cell/link.js';
import { unknownNameplate, type Device } from '../../cell/model.js';
import { edsDescription, formatOf, identityOf } from './edsDescription.js';
import {
  connectionImages,
  statedValue,
  type ConnectionImages,
  type DescribedImage,
} from './connectionImages.js';
import { tidy } from '../shared/fieldTexts.js';
import type { Eds } from './eds.js';

/**
 * Kinds of connection in the trigger mask, and formats and types in the parameter mask (CIP Vol. 1, 7-3.6.10, from
 * memory).
 */
const triggerBits = {
  listenOnly: 1 << 24,
  inputOnly: 1 << 25,
  changeOfState: 1 << 17,
  cyclic: 1 << 16,
} as const;
const multicastBit = 1 << 21;
const pointToPointBit = 1 << 22;

/** Device types of which the kind is certain (CIP Vol. 1, 6-1). */
const kindByType: Readonly<Record<number, Device['kind']>> = {
  0x02: 'variable-speed drive',
  0x07: 'process I/O',
  0x10: 'servo axis',
  0x13: 'variable-speed drive',
  0x17: 'soft starter',
  0x1b: 'valve terminal',
  0x25: 'servo axis',
};

/** Where a connection has no update time, µs. */
const usualRpi = 20_000;

/** A device's place in the cell, with the first free bytes of the controller's areas. */
interface PlaceWithStarts extends DevicePlace {
  commandStart: number;
  feedbackStart: number;
}

/**
 * A device of this kind with one of its connections; undefined when the describer has no such connection. Ids come from
 * `newId`.
 */
export function deviceOf(
  describer: Eds,
  connectionNumber: number,
  place: PlaceWithStarts,
  newId: () => string,
): Device | undefined {
  const found = connectionImages(describer).find((c) => c.connection.number === connectionNumber);
  if (!found) return undefined;
  const { device: facts } = describer;
  const identity = identityOf(describer);
  return {
    id: newId(),
    name: place.name,
    designation: '',
    kind: kindOfText(facts.deviceTypeName) ?? kindByType[facts.deviceType] ?? 'other',
    maker: tidy(facts.vendorName, 200),
    ...unknownNameplate,
    orderNumber: tidy(facts.catalog, 60),
    serves: '',
    address: place.address,
    identity,
    description: edsDescription(describer, found, newId),
    simulated: false,
    orderSelectable: false,
    links: [linkOf(describer, found, place, newId)],
  };
}

function linkOf(
  describer: Eds,
  { connection, command, feedback, configurationInstance }: ConnectionImages,
  place: PlaceWithStarts,
  newId: () => string,
): LinkOf<'ethernet-ip'> {
  const { triggers, parameters } = connection;
  const rpi = (stated: (typeof connection)['command']['rpi']) => {
    const value = statedValue(describer, stated) ?? usualRpi;
    return Math.min(10_000_000, Math.max(500, Math.round(value)));
  };
  const image = <D extends 'command' | 'feedback'>(
    direction: D,
    { instance, size, fields }: DescribedImage,
  ) => ({
    id: newId(),
    instance: Math.min(instance, 0xffff),
    size,
    start: direction === 'command' ? place.commandStart : place.feedbackStart,
    order: null,
    swapped: false,
    numbering: null,
    groups: [],
    fields: fields.map((field) => ({ ...field, id: newId() })),
    direction,
  });
  const onlyMulticast = (parameters & multicastBit) !== 0 && (parameters & pointToPointBit) === 0;
  return {
    id: newId(),
    protocol: 'ethernet-ip',
    connection:
      triggers & triggerBits.listenOnly
        ? 'listen-only'
        : triggers & triggerBits.inputOnly
          ? 'input-only'
          : 'exclusive-owner',
    commandRpi: rpi(connection.command.rpi),
    feedbackRpi: rpi(connection.feedback.rpi),
    timeoutMultiplier: 4,
    onLoss: 'drop',
    ...nothingSaid,
    toController: onlyMulticast ? 'multicast' : 'point-to-point',
    trigger:
      triggers & triggerBits.changeOfState && !(triggers & triggerBits.cyclic) ? 'change-of-state' : 'cyclic',
    commandFormat: formatOf(parameters, 8),
    feedbackFormat: formatOf(parameters, 12),
    configuration: { instance: configurationInstance ?? 1, data: '' },
    command: image('command', command),
    feedback: { ...image('feedback', feedback), derived: [] },
  };
}
