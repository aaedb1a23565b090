import { nothingSaid } from '../../protocols/link.js';
import { firstFree } from '../../cell/copies.js';
import { linkOver } from '../../cell/link.js';
import { CommandImage, FeedbackImage } from '../../layout/image.js';
import { ProfinetLink, type Slot } from '../../protocols/profinet/link.js';
import { kindOfText } from '../../devices/kinds.js';
import { nothingEntered } from '../../devices/description.js';
import { unknownNameplate, type Cell, type Device } from '../../cell/model.js';
import type { DevicePlace } from '../describer.js';
import { tidy } from '../shared/fieldTexts.js';
import type { Gsdml, GsdmlAccessPoint } from './gsdml.js';
import { stretchFields } from './gsdmlFields.js';
import { factoryPlugs, type Plug, type Plugged, type SubmodulePlace } from './plugging.js';

/** What is plugged, as a link of the cell keeps it. */
export const slotsOf = (describer: Gsdml, access: GsdmlAccessPoint, { places }: Plugged): Slot[] =>
  places.map(({ slot, subslot, module, submodule, input, output }) => ({
    slot,
    subslot: Math.max(1, subslot),
    module: tidy(module, 80),
    moduleIdent: [access, ...describer.modules].find((m) => m.id === module)?.identNumber ?? 0,
    submoduleIdent: submodule.identNumber,
    title: tidy(submodule.name, 64),
    inputs: input?.bytes ?? 0,
    outputs: output?.bytes ?? 0,
  }));

/** The plugs that a link of the cell was made with, in their order; those of the access point itself are no plugs. */
const plugsOf = (slots: readonly Slot[], access: GsdmlAccessPoint): Plug[] => {
  const seen = new Set<number>();
  return slots.flatMap(({ slot, module }) => {
    if (module === access.id || seen.has(slot)) return [];
    seen.add(slot);
    return [{ slot, module }];
  });
};

const linkOf = ({ links }: Device) => links.map((link) => linkOver(link, 'profinet')).find((link) => link);

/** Vendor and product as a device of the cell has them: 16 bits each. */
const numbersOf = ({ device }: Gsdml) => ({
  vendor: device.vendorId & 0xffff,
  productCode: device.deviceId & 0xffff,
});

/** The cell's devices that were made of this description. */
export function devicesOfGsdml(cell: Cell, describer: Gsdml): Device[] {
  const { vendor, productCode } = numbersOf(describer);
  return cell.devices.filter(
    (device) =>
      linkOf(device) && device.identity.vendor === vendor && device.identity.productCode === productCode,
  );
}

/** What is plugged into a device of the cell, and the bytes of the controller at which its images start. */
export function pluggedInto(
  device: Device,
  access: GsdmlAccessPoint,
): { plugs: Plug[]; start: { input: number; output: number } } {
  const link = linkOf(device);
  if (!link) return { plugs: factoryPlugs(access), start: { input: 0, output: 0 } };
  return {
    plugs: plugsOf(link.slots, access),
    start: { input: link.feedback.start, output: link.command.start },
  };
}

/**
 * The shortest update time that an access point offers and that is not below 1 ms, µs: 31.25 µs × send clock ×
 * reduction ratio.
 */
function updateTime({ timing, minInterval }: GsdmlAccessPoint): number {
  const offered = timing.sendClock.flatMap((clock) =>
    timing.reductionRatio.map((ratio) => 31.25 * clock * ratio),
  );
  const minimum = Math.max(1000, minInterval ?? 0);
  // Eight times the quickest is what engineering tools begin with as a rule (common practice, no source).
  const usual = Math.max(minimum, 8000);
  return Math.round(offered.filter((t) => t >= usual).sort((a, b) => a - b)[0] ?? usual);
}

/**
 * A device of the cell with one access point and what is plugged into it; its images are the submodules' bytes behind
 * each other.
 */
export function deviceOfGsdml(
  describer: Gsdml,
  access: GsdmlAccessPoint,
  all: Plugged,
  cell: Cell,
  place: DevicePlace,
  newId: () => string,
): Device {
  const { device } = describer;
  const [, major = '1', minor = '1'] = /(\d+)\.(\d+)/.exec(access.softwareRelease) ?? [];
  const within = (text: string, maximum: number) => Math.min(maximum, Math.max(1, Number(text)));
  const fields = (side: 'input' | 'output') =>
    stretchFields(
      all.places.flatMap((p: SubmodulePlace) => {
        const stretch = p[side];
        return stretch ? [{ title: p.submodule.name, data: stretch.data }] : [];
      }),
      newId,
    );
  const rpi = updateTime(access);
  const image = { instance: 1, order: 'big' };
  const link = ProfinetLink.parse({
    id: newId(),
    protocol: 'profinet',
    connection: 'cyclic-rt',
    commandRpi: rpi,
    feedbackRpi: rpi,
    timeoutMultiplier: 4,
    onLoss: 'drop',
    ...nothingSaid,
    slots: slotsOf(describer, access, all),
    command: CommandImage.parse({
      ...image,
      id: newId(),
      direction: 'command',
      size: all.outputBytes,
      start: firstFree(cell, 'command'),
      fields: fields('output'),
    }),
    feedback: FeedbackImage.parse({
      ...image,
      id: newId(),
      direction: 'feedback',
      size: all.inputBytes,
      start: firstFree(cell, 'feedback'),
      fields: fields('input'),
    }),
  });
  const identity = {
    ...numbersOf(describer),
    deviceType: 0,
    majorRevision: within(major, 127),
    minorRevision: within(minor, 255),
    productName: tidy(access.name.replace(/[^\x20-\x7e]/g, ''), 32),
  };
  return {
    ...unknownNameplate,
    id: newId(),
    name: place.name,
    address: place.address,
    designation: '',
    serves: '',
    kind: kindOfText(`${device.productFamily} ${device.mainFamily}`) ?? 'other',
    maker: tidy(device.vendorName, 200),
    orderNumber: tidy(access.orderNumber, 60),
    identity,
    description: {
      origin: {
        from: 'file',
        format: 'GSDML',
        title: tidy(access.name, 120),
        revision: tidy(access.softwareRelease, 40),
      },
      identity,
      points: [link.command, link.feedback].map(({ direction, size, order, groups, fields: described }) => ({
        number: 1,
        use: direction,
        title: '',
        size,
        order,
        groups,
        fields: described,
        registers: null,
      })),
      loss: null,
      ...nothingEntered,
      limits: { ...nothingEntered.limits, update: access.minInterval && Math.ceil(access.minInterval) },
      offer: { protocol: 'profinet', accessPoint: tidy(access.id, 80) },
    },
    simulated: false,
    orderSelectable: false,
    links: [link],
  };
}
