import type { Description } from '../../cell/description.js';
import { nothingEntered, type ConnectionPoint, type PointUse } from '../../devices/description.js';
import type { Identity } from '../../devices/identity.js';
import { maxParameters } from '../../devices/parameter.js';
import type { Eds } from './eds.js';
import { parametersOf } from './edsParameters.js';
import {
  connectionImages,
  statedMinimum,
  statedValue,
  type ConnectionImages,
  type DescribedImage,
} from './connectionImages.js';
import { tidy } from '../shared/fieldTexts.js';

const runIdleFormat = 4;

/** Real time format of one direction in the parameter mask of a connection (CIP Vol. 1, 7-3.6.10, from memory). */
export const formatOf = (parameters: number, shift: 8 | 12): 'run-idle' | 'modeless' =>
  ((parameters >>> shift) & 7) === runIdleFormat ? 'run-idle' : 'modeless';

/** The nameplate that a data sheet states, within what CIP can hold. */
export function identityOf({ device: facts }: Eds): Identity {
  const within = (value: number, minimum: number, maximum: number) =>
    Math.min(maximum, Math.max(minimum, Math.round(value) || minimum));
  return {
    vendor: within(facts.vendor, 0, 0xffff),
    deviceType: within(facts.deviceType, 0, 0xffff),
    productCode: within(facts.productCode, 0, 0xffff),
    majorRevision: within(facts.majorRevision, 1, 127),
    minorRevision: within(facts.minorRevision, 1, 255),
    productName: tidy(facts.productName.replace(/[^\x20-\x7e]/g, ''), 32),
  };
}

/** All that an EDS says of what the device offers: every point of every connection, once each. */
export function edsDescription(describer: Eds, chosen: ConnectionImages, newId: () => string): Description {
  const points = new Map<string, ConnectionPoint>();
  const add = (use: PointUse, point: Omit<ConnectionPoint, 'use' | 'order' | 'groups' | 'registers'>) => {
    const key = `${use} ${point.number}`;
    const known = points.get(key);
    // Another connection may say more of the same point.
    if (!known || (known.fields === null && point.fields !== null))
      points.set(key, { use, order: null, groups: [], registers: null, ...point });
  };
  for (const { connection, command, feedback, configurationInstance } of [
    chosen,
    ...connectionImages(describer),
  ]) {
    const image = ({ instance, size, fields, described }: DescribedImage, title: string) => ({
      number: Math.min(instance, 0xffff),
      title: tidy(title, 64),
      size,
      fields: described ? fields : null,
    });
    const listens = listeningUse(connection.triggers);
    // Who only listens sends heartbeats to a point without data.
    if (listens) add(listens, { ...image(command, connection.name), size: 0, fields: [] });
    else add('command', image(command, connection.name));
    add('feedback', image(feedback, connection.name));
    if (configurationInstance !== null)
      add('configuration', {
        number: Math.min(configurationInstance, 0xffff),
        title: '',
        size: Math.min(400, Math.max(0, statedValue(describer, connection.configuration.size) ?? 0)),
        fields: null,
      });
  }
  const { parameters: connection } = chosen.connection;
  return {
    origin: {
      from: 'file',
      format: 'EDS',
      title: tidy(describer.file.text, 120),
      revision: tidy(describer.file.revision, 40),
    },
    identity: identityOf(describer),
    points: [...points.values()].slice(0, 256),
    loss: null,
    ...nothingEntered,
    limits: { ...nothingEntered.limits, update: quickestOf(describer, chosen) },
    parameters: parametersOf(describer, newId).slice(0, maxParameters),
    offer: {
      protocol: 'ethernet-ip',
      cyclic: true,
      commandFormat: formatOf(connection, 8),
      feedbackFormat: formatOf(connection, 12),
    },
  };
}

/** The shortest update time that the parameters of a connection's two directions allow, µs. */
function quickestOf(describer: Eds, { connection }: ConnectionImages): number | null {
  const ends = [connection.command.rpi, connection.feedback.rpi].flatMap((rpi) => {
    const minimum = statedMinimum(describer, rpi);
    return minimum === null || minimum < 1 ? [] : [minimum];
  });
  return ends.length ? Math.min(10_000_000, Math.max(...ends)) : null;
}

/** Kinds of connection in the trigger mask (CIP Vol. 1, 7-3.6.10, from memory). */
const listenOnly = 1 << 24;
const inputOnly = 1 << 25;
const listeningUse = (triggers: number): 'input-only' | 'listen-only' | undefined =>
  triggers & listenOnly ? 'listen-only' : triggers & inputOnly ? 'input-only' : undefined;
