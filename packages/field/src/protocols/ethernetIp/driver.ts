import type { EthernetIpLink, Found } from '@fadenkreuz/core';
import { encapsulation as enip } from '@fadenkreuz/core/ethernet-ip';
import pLimit from 'p-limit';
import { AsyncQueue } from '../asyncQueue.js';
import { type Answered, type Driver, type ScanRange, type Served, type Simulated } from '../driver.js';
import { ipEnd } from '../ends.js';
import { loopbackBroadcast } from '../../addresses/bootpPorts.js';
import { benchAddress, ownBroadcasts } from '../../wire/reach.js';
import { askIdentities, type IdentityAnswer } from './identities.js';
import { readNetworkSettings } from './networkSettings.js';
import { EthernetIpOriginator } from './originator.js';
import { ownObjects } from './ownObjects.js';
import { setAddress, stopAsking } from './setAddress.js';
import { Target } from './target.js';
import type { TargetAssembly } from './targetDevice.js';

/** EtherNet/IP on UDP and TCP ports 44818 and 2222. */
export const ethernetIpDriver: Driver<EthernetIpLink> = {
  protocol: 'ethernet-ip',
  originator: (context) => new EthernetIpOriginator(context),
  benchEnd: (_device, address) => ({ on: 'ip', address: benchAddress(address), port: enip.explicitPort }),
  realEnd: ({ address }) => ({ on: 'ip', address, port: enip.explicitPort }),
  otherPorts: { ioPort: enip.ioPort },
  networkLight: true,
  serve: async (device, at) => {
    const { address } = ipEnd(at);
    const target = targetOf(device, address);
    target.trouble = device.trouble();
    try {
      await target.open();
    } catch (error) {
      await target.close().catch(() => undefined);
      throw error;
    }
    return served(device, target, address);
  },
  scan: scanEthernetIp,
  setAddress: (at, order, reach) => setAddress({ at, ...order, reach }),
  stopAsking,
};

const faultOf = { good: 'none', minor: 'minor', major: 'major' } as const;

/** The points of a simulated device as assemblies; the same bytes, and the same objects as long as nothing changes. */
function assembliesOf(device: Simulated): () => readonly TargetAssembly[] {
  let from: readonly unknown[] | undefined;
  let assemblies: readonly TargetAssembly[] = [];
  return () => {
    const points = device.points();
    if (points !== from) {
      from = points;
      assemblies = points.map(({ number, use, size, bytes }) => ({ instance: number, use, size, bytes }));
    }
    return assemblies;
  };
}

function targetOf(device: Simulated, address: string): Target {
  const { schedule, cable, serialNumber, mac, addressing, description } = device;
  const offer = description.offer?.protocol === 'ethernet-ip' ? description.offer : undefined;
  return new Target({
    address,
    schedule,
    cable,
    device: {
      identity: device.identity,
      serialNumber,
      mac,
      network: () => addressing.facts,
      setNetwork: (part) => addressing.change(part),
      assemblies: assembliesOf(device),
      classes: ownObjects(device),
      commandFormat: offer?.commandFormat ?? 'run-idle',
      feedbackFormat: offer?.feedbackFormat ?? 'modeless',
      cyclic: offer?.cyclic ?? true,
      fault: () => faultOf[device.health()],
      configure: device.configure,
      // Type 1 of the Reset service: back to the settings of the factory (CIP Vol. 1, 5-2.3.1).
      reset: (type) => device.reset(type === 1),
    },
  });
}

const served = (device: Simulated, target: Target, address: string): Served => ({
  end: { on: 'ip', address, port: enip.explicitPort },
  command: () => {
    const { command, run } = target;
    return command && { point: command.instance, bytes: command.bytes, run };
  },
  changed: (now) => target.changed(now),
  get network() {
    return target.network;
  },
  troubled: () => {
    target.trouble = device.trouble();
  },
  drop: (why) => {
    if (why === 'restarted') target.restart();
    else {
      // Two devices at one address break each other's conversations off.
      if (why === 'disturbed') target.disturbSessions();
      target.dropConnections();
    }
  },
  close: () => target.close(),
});

/** A device that is asked for details, at a time. */
const detailsAtOnce = 8;

/** ListIdentity by broadcast and address by address; then each that answered is asked for its network settings. */
async function* scanEthernetIp({ addresses, reach, signal, onAsked }: ScanRange): AsyncIterable<Answered> {
  const queue = new AsyncQueue<Answered>();
  const details = pLimit(detailsAtOnce);
  const asking: Promise<void>[] = [];
  const seen = new Set<string>();
  const take = (answer: IdentityAnswer) => {
    const key = `${answer.at} ${answer.serialNumber}`;
    // Of those who answered a broadcast only the ones that were meant: on one computer other benches may run.
    if (seen.has(key) || !addresses.includes(answer.at)) return;
    seen.add(key);
    const found = foundOf(answer);
    queue.put({ key, found });
    asking.push(
      details(async () => {
        if (signal.aborted) return;
        // A device that refuses this is found all the same.
        const settings = await readNetworkSettings({ address: answer.at, reach }).catch(() => undefined);
        if (settings) queue.put({ key, found: { ...found, ...settings } });
      }),
    );
  };
  queue.endWith(
    askIdentities({
      addresses,
      broadcasts: [loopbackBroadcast, ...ownBroadcasts(reach)],
      reach,
      signal,
      onAsked,
      onAnswer: take,
    }).then(() => Promise.all(asking)),
  );
  yield* queue;
}

const foundOf = (answer: IdentityAnswer): Omit<Found, 'address'> => ({
  protocol: 'ethernet-ip',
  at: answer.at,
  port: enip.explicitPort,
  maker: null,
  vendor: answer.vendor,
  deviceType: answer.deviceType,
  productCode: answer.productCode,
  majorRevision: answer.majorRevision,
  minorRevision: answer.minorRevision,
  productName: answer.productName,
  serialNumber: answer.serialNumber,
  status: answer.status,
  state: answer.state,
  mac: null,
  addressFrom: null,
  mask: null,
  gateway: null,
});
