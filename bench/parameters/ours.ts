import type { Device, EthernetIpLink } from '@fadenkreuz/core';
import { noTap } from '../../packages/field/src/capture/tap.js';
import { ParameterDesk } from '../../packages/field/src/parameters/parameterDesk.js';
import { ethernetIpParameters } from '../../packages/field/src/protocols/ethernetIp/parameters.js';
import { onlyLoopback } from '../../packages/field/src/wire/reach.js';
import { addressOf } from './cell.js';

/** Reads all parameters of these devices; resolves when the last is answered. */
export type Pass = () => Promise<void>;

export const localAddress = '127.96.40.1';

/** Passes of our own series. */
export function ours(asked: readonly Device[]): Pass {
  const desk = new ParameterDesk({
    cell: () => ({ devices: asked }) as never,
    access: (device) =>
      Promise.resolve(
        ethernetIpParameters(
          {
            device,
            link: device.links[0] as EthernetIpLink,
            localAddress,
            end: { on: 'ip', address: addressOf(device) },
          },
          { tap: noTap, reach: onlyLoopback },
        ),
      ),
    mayWrite: () => false,
  });
  return async () => {
    const { id, counts, total } = desk.read(asked.map(({ id: device }) => ({ device })));
    await desk.ended(id);
    if (counts.read !== total) throw new Error(`${counts.read} of ${total} read`);
  };
}
