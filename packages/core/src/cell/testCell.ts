import { signalsOf, type Signal } from '../layout/signals.js';
import { Field } from './field.js';
import { CommandImage, FeedbackImage, type Image } from './image.js';
import { Controller, unknownNameplate, type Cell, type Device } from './model.js';
import { Network } from './network.js';

/** A small cell for tests: one device, 8 bytes out, 12 bytes back. */
export const testDevice = (part: Partial<Device> = {}): Device => ({
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
  standIn: null,
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
      toController: 'point-to-point',
      trigger: 'cyclic',
      commandFormat: 'run-idle',
      feedbackFormat: 'modeless',
      unit: 255,
      port: 502,
      blocks: [],
      slots: [],
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
  ...part,
});

export const testCell = (devices: Device[] = [testDevice()]): Cell => ({
  id: 'c1',
  name: 'Test cell',
  designation: '=A1',
  controller: Controller.parse({ name: 'plc_c1', address: '192.168.40.1', elementBits: 16 }),
  network: Network.parse({ subnet: '192.168.40.0/24' }),
  naming: { pattern: '', longest: 32 },
  notations: [],
  devices,
});

/** The test device with these fields in its feedback (default) or command image, and other sizes where given. */
export function withFields(
  fields: Field[],
  { direction = 'feedback', size }: { direction?: 'command' | 'feedback'; size?: number } = {},
): Cell {
  const device = testDevice();
  const link = structuredClone(device.links[0]!);
  link[direction].fields = fields;
  if (size !== undefined) link[direction].size = size;
  return testCell([{ ...device, links: [link] }]);
}

/** An image for tests, feedback unless said otherwise. */
export const testImage = (part: Partial<FeedbackImage> = {}): Image =>
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
