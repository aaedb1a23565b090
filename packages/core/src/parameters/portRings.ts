import { bytesOfHex } from '../bytes/hexBytes.js';
import type { Device } from '../cell/model.js';
import { means, numberMeaning } from '../devices/settingMeaning.js';
import type { Parameter } from '../devices/parameter.js';
import type { PortDevice } from '../devices/ports.js';
import type { Role } from '../layout/role.js';
import type { Ring } from '../trouble/ring.js';
import { compareParameters, type ComparedParameter } from './compare.js';
import { planValue } from './planValue.js';

/**
 * Why a port of an IO-Link master is green and dead: what must hold, in the order in which one looks (common
 * practice, no source).
 */

/** What is known of a port beside the plan. */
export interface PortFacts {
  /** What was read of the parameters of the master. */
  read: ReadonlyMap<string, string>;
  /** Whether the master says in its image that the data of the port are valid; undefined: it does not say. */
  valid?: boolean | undefined;
}

/** Indexes of every IO-Link device (interface specification V1.1.3, annex B; from memory). */
const directParameters = 0;
const productName = 18;

export function portRings(device: Device, held: PortDevice, { read, valid }: PortFacts): Ring[] {
  const { port } = held;
  const compared = compareParameters(device.description.parameters, { device: read });
  const withRole = (role: Role) =>
    compared.find(({ parameter: p }) => p.role?.is === role && (p.role.number ?? 1) === port);
  const behind = (index: number) =>
    compared.find(
      ({ parameter: { place } }) => place?.way === 'port' && place.port === port && place.index === index,
    );
  return [
    settingRing(device, withRole('load power'), {
      ...{ title: 'load power', meaning: 'on' },
      without: 'the device has no supply, and the link stays green',
    }),
    settingRing(device, withRole('port mode'), {
      ...{ title: 'mode', meaning: 'IO-Link' },
      without: 'an IO-Link device says nothing there',
    }),
    talkRing(valid),
    deviceRing(held, behind(directParameters), behind(productName)),
    ...(['input', 'output'] as const).map((side) =>
      lengthRing(device, held, side, withRole(`port ${side} length`)),
    ),
  ].flatMap((ring) => ring ?? []);
}

/** Where a parameter stands: in the device, else in the plan, else as it is delivered. */
const stands = ({ values: { device, planned, default: initial } }: ComparedParameter) => {
  const from = [device, planned, initial].find((v) => v && 'hex' in v);
  return from && 'hex' in from ? { ...from, inDevice: from === device } : undefined;
};
const labelOf = ({ labels }: Parameter, raw: string) =>
  labels.find((l) => String(l.value) === raw)?.text ?? raw;

/** A setting of the port that must have a meaning. */
function settingRing(
  device: Device,
  compared: ComparedParameter | undefined,
  { title, meaning, without }: { title: string; meaning: 'on' | 'IO-Link'; without: string },
): Ring | undefined {
  if (!compared) return undefined;
  const { parameter } = compared;
  const reads = [parameter.id];
  const now = stands(compared);
  if (!now) return { title, state: 'unknown', says: 'Not read yet.', reads };
  const label = labelOf(parameter, now.raw);
  // A switch without labels is on where it is not 0.
  const plain = meaning === 'on' && parameter.labels.length === 0;
  if (plain ? now.raw !== '0' : means(label, meaning))
    return { title, state: now.inDevice ? 'closed' : 'unknown', says: label, reads };
  const to = plain ? 1 : numberMeaning(parameter, meaning);
  return {
    ...{ title, state: 'open', reads, says: `${parameter.name} is ${label}: ${without}.` },
    fix: to === undefined ? undefined : planValue(device, parameter, String(to)),
  };
}

const talkRing = (valid: boolean | undefined): Ring =>
  valid === undefined
    ? { title: 'talks', state: 'unknown', says: 'The image does not say it, or the bench does not run.' }
    : valid
      ? { title: 'talks', state: 'closed', says: 'data valid' }
      : {
          title: 'talks',
          state: 'open',
          says: 'No device talks: see that it is plugged in, and that its cable has all its cores.',
        };

/** Whether it is the one that was planned: by vendor and device, else by its product name. */
function deviceRing(
  { vendorId, deviceId, productName: planned }: PortDevice,
  direct: ComparedParameter | undefined,
  name: ComparedParameter | undefined,
): Ring | undefined {
  const title = 'the planned device';
  const asked = [
    ...(direct && (vendorId > 0 || deviceId > 0) ? [direct] : []),
    ...(name && planned !== '' ? [name] : []),
  ];
  if (asked.length === 0) return undefined;
  const reads = asked.map(({ parameter: { id } }) => id);
  const judged = (same: boolean, says: string, wanted: string): Ring =>
    same
      ? { title, state: 'closed', says, reads }
      : { title, state: 'open', reads, says: `It is ${says}; planned is ${wanted}.` };
  const [ids, said] = [direct, name].map((one) =>
    one && asked.includes(one) ? one.values.device : undefined,
  );
  if (ids && 'hex' in ids) {
    const bytes = bytesOfHex(ids.hex);
    const number = (from: number, to: number) =>
      bytes.slice(from, to).reduce((sum, byte) => sum * 256 + byte, 0);
    const [vendor, id] = [number(7, 9), number(9, 12)];
    return judged(
      vendor === vendorId && id === deviceId,
      `vendor ${vendor}, device ${id}`,
      `vendor ${vendorId}, device ${deviceId}`,
    );
  }
  if (said && 'hex' in said) return judged(said.value.trim() === planned, said.value.trim(), planned);
  return { title, state: 'unknown', says: 'Not read yet.', reads };
}

function lengthRing(
  device: Device,
  held: PortDevice,
  side: 'input' | 'output',
  compared: ComparedParameter | undefined,
): Ring | undefined {
  if (!compared) return undefined;
  const { parameter } = compared;
  const bytes = side === 'input' ? held.inputBytes : held.outputBytes;
  const now = stands(compared);
  const title = `${side} length`;
  if (!now) return { title, state: 'unknown', says: 'Not read yet.', reads: [parameter.id] };
  if (now.number === bytes)
    return {
      title,
      state: now.inDevice ? 'closed' : 'unknown',
      says: `${bytes} bytes`,
      reads: [parameter.id],
    };
  return {
    ...{ title, state: 'open', reads: [parameter.id] },
    says: `The port passes ${now.value} bytes; the device has ${bytes}: values behind them shift or stay 0.`,
    fix: planValue(device, parameter, String(bytes)),
  };
}
