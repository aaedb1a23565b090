import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { connect, type Socket } from 'node:net';
import { fileURLToPath } from 'node:url';
import type { Device } from '@fadenkreuz/core';
import { EthernetIP } from 'st-ethernet-ip';
import { addressOf, devices, parametersEach } from './cell.js';
import { localAddress, ours, type Pass } from './ours.js';

/**
 * All parameters of one, five and ten stand-ins in one pass: our series, a bare loop over sockets that only counts
 * bytes, and a library, in turn on the same targets, one request in flight at each device. Prints requests a second and
 * the ratio to the bare loop: of the first pass, which pays for the compiling of each side's code, and medians of the
 * rounds after so many requests that it is compiled. Ratios are of one round each, whose passes follow each other
 * within a tenth of a second: a computer that others use is faster in one round than in the next.
 */
const rounds = 75;
const warmUp = 20_000;

const message = (session: Buffer, instance: number): Buffer => {
  const path = instance < 256 ? [0x24, instance] : [0x25, 0, instance & 0xff, instance >> 8];
  const cip = Buffer.from([0x0e, (4 + path.length) / 2, 0x20, 15, ...path, 0x30, 1]);
  const head = Buffer.alloc(24 + 16);
  head.writeUInt16LE(0x6f, 0);
  head.writeUInt16LE(16 + cip.length, 2);
  session.copy(head, 4);
  head.writeUInt16LE(2, 30);
  head.writeUInt16LE(0xb2, 36);
  head.writeUInt16LE(cip.length, 38);
  return Buffer.concat([head, cip]);
};

async function bare(asked: readonly Device[]): Promise<Pass> {
  const sockets = await Promise.all(
    asked.map(async (device): Promise<{ socket: Socket; messages: Buffer[] }> => {
      const socket = connect({ port: 44_818, host: addressOf(device), localAddress });
      socket.setNoDelay(true);
      await once(socket, 'connect');
      socket.write(Buffer.from(`65000400${'00'.repeat(20)}01000000`, 'hex'));
      const [reply] = (await once(socket, 'data')) as [Buffer];
      const session = reply.subarray(4, 8);
      return {
        socket,
        messages: Array.from({ length: parametersEach }, (_, p) => message(session, p + 1)),
      };
    }),
  );
  return async () => {
    await Promise.all(
      sockets.map(
        ({ socket, messages }) =>
          new Promise<void>((resolve) => {
            let next = 0;
            const ask = () => socket.write(messages[next++]!);
            const hear = () => {
              if (next < messages.length) return void ask();
              socket.off('data', hear);
              resolve();
            };
            socket.on('data', hear);
            ask();
          }),
      ),
    );
  };
}

async function library(asked: readonly Device[]): Promise<Pass> {
  const clients = await Promise.all(
    asked.map(async (device) => {
      const client = new EthernetIP.ENIP();
      await client.connect(addressOf(device), 2000);
      return client;
    }),
  );
  const { MessageRouter } = EthernetIP.CIP;
  return async () => {
    await Promise.all(
      clients.map(async (client) => {
        for (let p = 1; p <= parametersEach; p += 1) {
          const answered = once(client, 'SendRRData Received');
          client.write_cip(
            MessageRouter.build(0x0e, Buffer.from([0x20, 15, 0x24, p, 0x30, 1]), Buffer.alloc(0)),
          );
          await answered;
        }
      }),
    );
  };
}

const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

const target = spawn(process.execPath, [fileURLToPath(new URL('standIns.js', import.meta.url))], {
  stdio: ['pipe', 'pipe', 'inherit'],
});
await once(target.stdout, 'data');
for (const count of [1, 5, 10]) {
  const asked = devices.slice(0, count);
  const sides = { bare: await bare(asked), ours: ours(asked), library: await library(asked) };
  const rates: Record<string, number[]> = { bare: [], ours: [], library: [] };
  const first: Record<string, number[]> = {};
  const requests = count * parametersEach;
  const warm = Math.ceil(warmUp / requests);
  for (let round = 0; round < warm + rounds; round += 1)
    for (const [side, pass] of Object.entries(sides)) {
      const before = performance.now();
      await pass();
      const rate = (requests * 1000) / (performance.now() - before);
      first[side] ??= [rate];
      if (round >= warm) rates[side]!.push(rate);
    }
  const compare = (of: Record<string, number[]>) =>
    Object.entries(of)
      .map(([side, all]) => {
        const ratio = median(all.map((rate, round) => rate / of['bare']![round]!));
        return `${side} ${Math.round(median(all))}/s (${ratio.toFixed(2)})`;
      })
      .join(', ');
  console.log(`${count} devices, first pass: ${compare(first)}`);
  console.log(`${count} devices: ${compare(rates)}`);
}
target.stdin.end();
process.exit(0);
