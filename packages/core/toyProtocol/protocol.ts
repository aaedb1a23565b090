import { z } from 'zod';
import { commonFaults, faultOf } from '../src/devices/fault.js';
import type { ConnectionPoint } from '../src/devices/description.js';
import { imageTitle } from '../src/layout/image.js';
import { finding } from '../src/messages/finding.js';
import { linkHead, linkTail, updateTime, nothingSaid } from '../src/protocols/link.js';
import type { Protocol } from '../src/protocols/protocol.js';

/** A made-up protocol for tests: one exchange of both images in each period, over a wire without IP addresses. */
export const ToyLink = z.strictObject({
  ...linkHead,
  protocol: z.literal('toy-wire'),
  connection: z.literal('exchange'),
  period: updateTime,
  ...linkTail,
});
export type ToyLink = z.infer<typeof ToyLink>;

export const ToyOffer = z.strictObject({ protocol: z.literal('toy-wire') });
export type ToyOffer = z.infer<typeof ToyOffer>;

/** Periods without an answer after which a side gives up. */
const patience = 10;

const pointOf = (use: 'command' | 'feedback', size: number): ConnectionPoint => ({
  ...{ number: 1, use, title: '', size },
  ...{ order: null, groups: [], fields: null, registers: null },
});

export const toyWire: Protocol<ToyLink, ToyOffer> = {
  id: 'toy-wire',
  title: 'Toy Wire',
  link: ToyLink,
  offer: ToyOffer,
  connections: { exchange: { title: 'exchange', cyclic: false } },
  placeOf: () => '',
  times: ({ period }) => {
    const ms = period / 1000;
    return { commandMs: ms, feedbackMs: ms, quickestMs: ms, lossMs: ms * patience };
  },
  withUpdate: (_link, us) => ({ period: us }),
  timing: ({ period }) => ({ period }),
  budget: ({ command, feedback, period }) => ({
    command: [{ payload: 2 + command.size, perSecond: 1e6 / period }],
    feedback: [{ payload: 2 + feedback.size, perSecond: 1e6 / period }],
    transport: 'ethernet',
  }),
  create: ({ id, command, feedback, update }) => ({
    ...{
      id,
      protocol: 'toy-wire',
      connection: 'exchange',
      period: update,
      onLoss: 'drop',
      ...nothingSaid,
    },
    ...{ command, feedback },
  }),
  renewed: (link, newId) => ({ ...link, id: newId() }),
  pointFor: (_link, direction, { points }) => points.find((p) => p.use === direction),
  offerOf: () => ({ protocol: 'toy-wire' }),
  pointsOf: ({ command, feedback }) => [pointOf('command', command.size), pointOf('feedback', feedback.size)],
  // Every exchange writes.
  reading: () => undefined,
  sends: ({ command }) => `${command.size} bytes`,
  rules: [
    ({ device, link, offer }) =>
      [link.command, link.feedback].flatMap((image) => {
        const point = offer && device.description.points.find((p) => p.use === image.direction);
        if (!point || point.size === image.size) return [];
        const facts = {
          ...{ image: imageTitle(device, image.direction), planned: image.size, actual: point.size },
        };
        return [finding('image.sizeDiffers', 'error', { device: device.id, image: image.id }, facts)];
      }),
  ],
  causes: [
    {
      title: 'The toy wire is silent',
      next: 'Wind it up.',
      seen: (s) => (s.state === 'timed-out' ? [[9, 'no exchange came about']] : []),
    },
  ],
  faults: () => commonFaults.map((kind) => faultOf(kind)),
  parameterPlaces: [],
  scan: { answers: false, setsAddress: false },
};
