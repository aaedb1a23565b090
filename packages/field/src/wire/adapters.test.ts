import { execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { askMessage, bootpMessage, encode } from '@fadenkreuz/core/bootp';
import { AddressServer } from '../addresses/addressServer.js';
import { Scan } from '../scan/scan.js';
import { until } from '../testBench.js';
import { tsharkFields } from '../tshark.js';
import { Reach } from './reach.js';
import { bindUdp, closeUdp, udpSocket } from './udp.js';

const ip = (...args: string[]) => execFileSync('ip', args, { stdio: 'ignore' });
const adapters = [
  ['fk-machine', '10.77.0.1'],
  ['fk-office', '10.78.0.1'],
] as const;

/** Cables with both ends here; they can be made where ./test has a network of its own (unshare --net). */
function makeAdapters(): boolean {
  if (process.env['FADENKREUZ_OWN_NETWORK'] !== '1') return false;
  try {
    for (const [name] of adapters) ip('link', 'add', name, 'type', 'veth', 'peer', 'name', `${name}-b`);
    return true;
  } catch {
    return false;
  }
}

/** What left by which of the two adapters while something is done. */
async function sent(work: () => Promise<unknown>): Promise<Record<string, string>[]> {
  const file = join(await mkdtemp(join(tmpdir(), 'fadenkreuz-adapters-')), 'sent.pcapng');
  const tshark = spawn('tshark', [...adapters.flatMap(([name]) => ['-i', name]), '-w', file], {
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  tshark.stderr.on('data', (text: Buffer) => (said += text.toString()));
  await until(() => said.includes('Capturing on'));
  // It says so a moment before it does so.
  await new Promise((resolve) => setTimeout(resolve, 500));
  await work();
  await new Promise((resolve) => setTimeout(resolve, 500));
  tshark.kill('SIGINT');
  await once(tshark, 'exit');
  return tsharkFields(file, 'udp && ip', ['frame.interface_name', 'ip.src', 'ip.dst', 'udp.dstport']);
}

describe.runIf(makeAdapters())('a computer between two networks, one of which may be reached', () => {
  beforeAll(() => {
    for (const [name, address] of adapters) {
      ip('address', 'add', `${address}/24`, 'dev', name);
      for (const end of [name, `${name}-b`]) ip('link', 'set', end, 'up');
    }
    // As on a computer whose way to everywhere leads through the office.
    ip('route', 'add', 'default', 'via', '10.78.0.254');
  });
  afterAll(() => adapters.forEach(([name]) => ip('link', 'delete', name)));
  const reach = new Reach(['10.77.0.0/24']);

  test('everybody is asked who he is by the adapter of the named subnet alone', async () => {
    const scan = new Scan({ ranges: ['10.77.0.20'], ports: [], planned: '10.77.0.1', reach });
    const packets = await sent(() => scan.run());
    const broadcasts = packets.filter((p) => p['ip.dst']!.endsWith('.255'));
    expect(broadcasts.length).toBeGreaterThan(0);
    for (const packet of broadcasts)
      expect(packet).toEqual({
        ...{ 'frame.interface_name': 'fk-machine', 'ip.src': '10.77.0.1' },
        ...{ 'ip.dst': '10.77.0.255', 'udp.dstport': '44818' },
      });
    expect(packets.filter((p) => p['frame.interface_name'] === 'fk-office')).toEqual([]);
  });

  test('an address is given by the adapter that the device is on, whatever the way to everywhere is', async () => {
    const mac = Uint8Array.of(2, 0xfa, 0x12, 0, 0, 7);
    const server = new AddressServer('127.97.40.1', reach, () => undefined);
    await server.open();
    server.give(
      [{ mac: '02-FA-12-00-00-07', address: '10.77.0.20', mask: '255.255.255.0', gateway: null }],
      1,
    );
    const asking = udpSocket();
    await bindUdp(asking, 0, '10.77.0.1');
    const packets = await sent(async () => {
      const question = askMessage({
        method: 'bootp',
        mac,
        transaction: 7,
        vendorClass: '',
        offer: undefined,
      });
      asking.send(encode(bootpMessage, question), 67, '10.77.0.1');
      await until(() => server.state.heard.length > 0);
    });
    await Promise.all([closeUdp(asking), server.close()]);
    expect(server.state.heard[0]).toMatchObject({ given: '10.77.0.20' });
    expect(packets).toEqual([
      {
        ...{ 'frame.interface_name': 'fk-machine', 'ip.src': '10.77.0.1' },
        ...{ 'ip.dst': '255.255.255.255', 'udp.dstport': '68' },
      },
    ]);
  });
});
