import { createSocket } from 'node:dgram';
import { Deviations, intervalMs, report, warmUpMs, type Side } from './measure.js';

/**
 * The bare limit: a process that sends N datagrams of 64 bytes every 10 ms to its other half and receives as many. No
 * protocol, no state beyond the time that each number was heard last. With DEVICES, the target has as many sockets at
 * as many addresses, as that many devices have.
 *
 *   limit.ts SIDE COUNT SECONDS [DEVICES]
 */
const [, , side, countText, secondsText, devicesText] = process.argv as [string, string, Side, ...string[]];
const count = Number(countText);
const seconds = Number(secondsText);
const devices = Number(devicesText ?? 1);
const originator = '127.60.0.1';
const targets = Array.from(
  { length: devices },
  (_, n) => `127.60.${1 + Math.floor(n / 200)}.${1 + (n % 200)}`,
);
const own = side === 'originator' ? [originator] : targets;

const deviations = new Deviations(count, seconds);
const sockets = await Promise.all(
  own.map(async (address) => {
    const socket = createSocket({ type: 'udp4', lookup: (at, _options, done) => done(null, at, 4) });
    socket.on('message', (message) => deviations.heard(message.readUInt32LE(0), performance.now()));
    await new Promise<void>((resolve) => socket.bind(2222, address, resolve));
    return socket;
  }),
);
const other = (i: number) => (side === 'originator' ? targets[i % devices]! : originator);
const routes = Array.from({ length: count }, (_, i) => ({ socket: sockets[i % own.length]!, to: other(i) }));

const packets = Array.from({ length: count }, (_, i) => {
  const packet = Buffer.alloc(64);
  packet.writeUInt32LE(i, 0);
  return packet;
});
process.stdin.once('data', () => {
  const begin = performance.now();
  // Evenly spread over the interval, as connections that were opened one after the other are.
  const due = Float64Array.from({ length: count }, (_, i) => begin + (i * intervalMs) / count);
  const wake = () => {
    const now = performance.now();
    let next = Infinity;
    for (let i = 0; i < count; i += 1) {
      if (due[i]! - now <= 0.5) {
        routes[i]!.socket.send(packets[i]!, 2222, routes[i]!.to);
        due[i] = due[i]! + intervalMs * Math.max(1, Math.floor((now - due[i]!) / intervalMs) + 1);
      }
      if (due[i]! < next) next = due[i]!;
    }
    if (now - begin < warmUpMs + (seconds + 1) * 1000)
      setTimeout(wake, Math.max(0, next - performance.now()));
  };
  wake();
  setTimeout(() => deviations.begin(), warmUpMs);
  setTimeout(() => report(side, deviations, 0), warmUpMs + seconds * 1000);
  setTimeout(() => process.exit(0), warmUpMs + (seconds + 1.5) * 1000);
});
process.stdout.write('ready\n');
