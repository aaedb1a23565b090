import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { nothingSaid } from '../protocols/link.js';
import { protocolById } from '../protocols/list.js';
import { describedByLinks, Description, descriptionByHand } from './description.js';
import { linkOver, type Link, type LinkOf } from './link.js';
import { signalsOf, type Signal } from '../layout/signals.js';
import { Field } from '../layout/field.js';
import { CommandImage, FeedbackImage } from '../layout/image.js';
import { Controller, unknownNameplate, type Cell, type Device } from './model.js';
import { Network } from './network.js';

/**
 * A small cell for tests: one device, 8 bytes out, 12 bytes back; described by hand unless said otherwise, with what
 * `says` adds.
 */
export function testDevice(part: Partial<Device> = {}, says: Partial<Description> = {}): Device {
  const device = { ...plainDevice(), ...part };
  const description = part.description ?? descriptionByHand(device.links);
  return { ...device, description: { ...description, ...says } };
}

const plainDevice = (): Device => ({
  id: 'd1',
  name: 'pump_m1',
  designation: '=A1-M1',
  kind: 'other',
  maker: '',
  ...unknownNameplate,
  serves: '',
  address: '192.168.40.21',
  identity: {
    vendor: 65_000,
    deviceType: 2,
    productCode: 1,
    majorRevision: 1,
    minorRevision: 1,
    productName: 'P',
  },
  description: descriptionByHand([]),
  simulated: false,
  orderSelectable: false,
  links: [
    {
      id: 'l1',
      protocol: 'ethernet-ip',
      connection: 'exclusive-owner',
      commandRpi: 20_000,
      feedbackRpi: 20_000,
      timeoutMultiplier: 4,
      onLoss: 'drop',
      ...nothingSaid,
      toController: 'point-to-point',
      trigger: 'cyclic',
      commandFormat: 'run-idle',
      feedbackFormat: 'modeless',
      configuration: { instance: 150, data: '' },
      command: CommandImage.parse({
        id: 'i1',
        instance: 120,
        size: 8,
        start: 0,
        direction: 'command',
        fields: [],
      }),
      feedback: FeedbackImage.parse({
        id: 'i2',
        instance: 110,
        size: 12,
        start: 0,
        direction: 'feedback',
        fields: [],
      }),
    },
  ],
});

export const testCell = (devices: Device[] = [testDevice()]): Cell => ({
  id: 'c1',
  name: 'Test cell',
  designation: '=A1',
  controller: Controller.parse({
    name: 'plc_c1',
    address: '192.168.40.1',
    elementBits: 16,
    direct: { counts: 'bytes', inputFrom: 0, outputFrom: 0 },
  }),
  network: Network.parse({ subnet: '192.168.40.0/24' }),
  naming: { pattern: '', longest: 32 },
  notations: [],
  machine: [],
  exchanges: [],
  sets: [],
  devices,
});

/** The test device with these fields in its feedback (default) or command image, and other entries where given. */
export function withFields(
  fields: Field[],
  {
    direction = 'feedback',
    ...part
  }: { direction?: 'command' | 'feedback' } & Partial<Omit<FeedbackImage, 'direction'>> = {},
): Cell {
  const device = testDevice();
  const link = structuredClone(device.links[0]!);
  Object.assign(link[direction], { fields, ...part });
  return testCell([describedByLinks({ ...device, links: [link] })]);
}

/** An image for tests, feedback unless said otherwise. */
export const testImage = (part: Partial<FeedbackImage> = {}): FeedbackImage =>
  FeedbackImage.parse({
    id: 'i',
    instance: 1,
    size: 8,
    start: 0,
    direction: 'feedback',
    fields: [],
    ...part,
  });

/** A signal for tests: a field in an image of this order. */
export function testSignal(
  part: Partial<Field> & Pick<Field, 'type' | 'at' | 'bits'>,
  order: Signal['order'] = 'little',
): Signal {
  const field = Field.parse({ id: part.name ?? 'f', name: 'f', ...part });
  return signalsOf({ fields: [field], groups: [], order })[0]!;
}

/** The description of a device of the demo. */
export const demoDescription = (name: string): Description =>
  Description.parse(demo.cell.devices.find((device) => device.name === name)!.description);

/** The first link of a device, which is one of this protocol. */
export function firstLink<P extends Link['protocol']>({ name, links }: Device, protocol: P): LinkOf<P> {
  const link = links[0] && linkOver(links[0], protocol);
  if (!link) throw new Error(`${name} has no first link over ${protocol}`);
  return link;
}

/** The link of the test device over another protocol, with some entries. */
export function testLink<P extends Link['protocol']>(protocol: P, part: Partial<LinkOf<P>> = {}): LinkOf<P> {
  const { id, command, feedback } = testDevice().links[0]!;
  const link = protocolById(protocol).create({ id, command, feedback, update: 20_000 });
  return { ...link, ...part } as LinkOf<P>;
}
