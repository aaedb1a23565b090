import type { EthernetIpLink } from '@fadenkreuz/core';
import { setTimeout as sleep } from 'node:timers/promises';
import { emptyResponse, encode, forwardOpen, OutgoingPacket, services } from '@fadenkreuz/core/ethernet-ip';
import { expect, test } from 'vitest';
import type { Schedule } from '../../timing/schedule.js';
import { demoDevice } from '../../testBench.js';
import { Cable } from '../../wire/cable.js';
import { Connections } from './connections.js';
import { openRequest } from './openRequest.js';
import type { TargetAssembly } from './targetDevice.js';

test('whoever falls silent after a late first packet is given up after the agreed time, not after the wait for the first', async () => {
  const device = demoDevice('climate_io_u1', '10.99.40.71');
  const { identity } = device;
  const own = device.description.points.map((p): TargetAssembly => ({
    ...p,
    instance: p.number,
    bytes: new Uint8Array(p.size),
  }));
  const ended: string[] = [];
  const connections = new Connections({
    address: '127.99.40.71',
    mask: () => 0xffff_ff00,
    schedule: { packets: () => () => undefined } as unknown as Schedule,
    cable: new Cable(1),
    deliver: () => undefined,
    deliverTo: () => () => undefined,
    facts: () => ({
      ...{ identity, points: own, commandFormat: 'run-idle', feedbackFormat: 'modeless' },
      ...{ shortestRpi: 1000, rpiStep: 1000, maxConnections: 4 },
    }),
    assemblyOf: (instance) => own.find((a) => a.instance === instance),
    message: () => emptyResponse(0, 0),
    onOpened: () => undefined,
    onEnded: (_connection, why) => ended.push(why),
  });
  const link = {
    ...(device.links[0] as EthernetIpLink),
    commandRpi: 10_000,
    feedbackRpi: 10_000,
    timeoutMultiplier: 4 as const,
  };
  const name = { connectionSerial: 1, originatorVendor: 65_000, originatorSerial: 7 };
  const { body } = openRequest(device, link, name, 0x1234);
  const data = encode(forwardOpen, body);
  const manager = connections.object();
  const opened = manager.instance(1)!.services![services.forwardOpen]!(
    { service: services.forwardOpen, path: [], data },
    { from: '127.99.40.1', maxAnswer: 500 },
  );
  expect(opened).not.toHaveProperty('status');
  const [connection] = connections.open;
  const watchFor = async (ms: number) => {
    for (const until = performance.now() + ms; performance.now() < until; await sleep(10))
      connections.watch(performance.now());
  };

  // Longer than the 40 ms of the connection: the first packet may take 10 s (CIP Vol. 1, 3-4.5.2).
  await watchFor(150);
  expect(ended).toEqual([]);
  const { bytes } = own.find((a) => a.use === 'command')!;
  const packet = new OutgoingPacket(connection!.toTargetId, 'run-idle', bytes.length);
  expect(connections.hear(packet.next(bytes, true), performance.now())).toBe(true);
  await watchFor(400);
  expect(ended).toEqual(['timed-out']);
});
