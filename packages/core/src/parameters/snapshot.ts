import { z } from 'zod';
import type { Device } from '../cell/model.js';
import { maxParameters, type Parameter } from '../devices/parameter.js';
import { Identity } from '../devices/identity.js';
import { id, int, printable } from '../entries/entries.js';
import { placeText } from '../tables/parameterPlace.js';
import type { ReadValues } from '../devices/decimalPlaces.js';
import { compareParameters } from './compare.js';
import { hexPairs } from '../bytes/hexBytes.js';

/** One value of a snapshot: enough to find its parameter again, also in another device or in a later description. */
export const SnapshotValue = z.strictObject({
  code: printable(20).default(''),
  name: printable(64),
  /** As placeText writes it. */
  place: printable(80),
  bytes: z.string().max(750).regex(hexPairs, 'is no row of hex pairs'),
  /** As it was read then, with unit and label. */
  text: printable(300),
});

/** What stood in a device at some time. */
export const Snapshot = z.strictObject({
  id,
  title: printable(80).min(1),
  device: z.strictObject({ id, name: printable(64) }),
  /** As the device itself said it, with its revision. */
  identity: Identity,
  serialNumber: int(0, 0xffff_ffff).nullable(),
  /** ISO 8601, UTC. */
  at: z.iso.datetime(),
  person: printable(64),
  values: z.array(SnapshotValue).max(maxParameters),
});
export type Snapshot = z.infer<typeof Snapshot>;
export type SnapshotValue = z.infer<typeof SnapshotValue>;

/** The values of a snapshot from what was read. */
export const snapshotValues = (parameters: readonly Parameter[], read: ReadValues): SnapshotValue[] =>
  compareParameters(parameters, { device: read }).flatMap(({ parameter, values: { device } }) =>
    device && 'hex' in device
      ? [
          {
            ...{ code: parameter.code, name: parameter.name, place: placeText(parameter.place) },
            ...{ bytes: device.hex, text: device.text.slice(0, 300).trim() },
          },
        ]
      : [],
  );

/** What is planned for the parameters of a device, as a snapshot would have it. */
export const plannedValues = (parameters: readonly Parameter[]): SnapshotValue[] => {
  const planned = compareParameters(parameters, {}).flatMap(({ parameter, values }): [string, string][] =>
    values.planned && 'hex' in values.planned ? [[parameter.id, values.planned.hex]] : [],
  );
  return snapshotValues(parameters, new Map(planned));
};

/** Whether values of one device belong into another one. */
export interface Fit {
  /** `same`: identity and revision; `revision`: the same product with another revision; `other`: another product. */
  fits: 'same' | 'revision' | 'other';
  says: string;
}

/**
 * Whether a snapshot fits what stands there now. The same major revision is one whose parameters mean the same (CIP
 * Vol. 1, 5-2.3.4: a change of it says that the device does not behave as before).
 */
export function fitOf(from: Identity, to: Identity): Fit {
  const product = ({ vendor, deviceType, productCode }: Identity) =>
    `vendor ${vendor}, type ${deviceType}, product ${productCode}`;
  const revision = ({ majorRevision, minorRevision }: Identity) => `${majorRevision}.${minorRevision}`;
  if (product(from) !== product(to))
    return {
      fits: 'other',
      says: `The snapshot is of ${from.productName || product(from)}, the device is ${to.productName || product(to)}.`,
    };
  if (revision(from) === revision(to))
    return { fits: 'same', says: `The same product, revision ${revision(to)}.` };
  return {
    fits: 'revision',
    says: `The snapshot is of revision ${revision(from)}, the device has ${revision(to)}${
      from.majorRevision === to.majorRevision ? '' : ': parameters may mean something else'
    }.`,
  };
}

/** Values of a snapshot for the parameters of a device, and those that have no place there. */
export interface Restorable {
  values: Map<string, string>;
  left: { name: string; why: string }[];
}

/** Finds the parameters of a snapshot again: by their place, else by code and name. */
export function restorable(
  { description: { parameters } }: Pick<Device, 'description'>,
  values: readonly SnapshotValue[],
): Restorable {
  const byPlace = new Map(parameters.map((p) => [placeText(p.place), p]));
  const byName = new Map(parameters.map((p) => [`${p.code} ${p.name}`, p]));
  const found: Restorable = { values: new Map(), left: [] };
  for (const { code, name, place, bytes } of values) {
    const parameter = (place && byPlace.get(place)) || byName.get(`${code} ${name}`);
    const left = (why: string) => void found.left.push({ name, why });
    if (!parameter) left('the device has no such parameter');
    else if (parameter.access === 'read') left('it can only be read');
    else if (bytes.split(' ').length !== Math.ceil(parameter.bits / 8)) left('it has another length there');
    else found.values.set(parameter.id, bytes);
  }
  return found;
}
