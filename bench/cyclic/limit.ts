import { createSocket } from 'node:dgram';
import { Deviations, intervalMs, report, warmUpMs, type Side } from './measure.js';

/**
 * The bare limit: a process that sends N datagrams of 64 bytes every 10 ms to its other half and receives as many. No
 * protocol, no state beyond the time that each number was heard last.
 *
 *   limit.ts SIDE COUNT SECONDS
 */
const [, , side, countText, secondsText] = process.argv as [string, string, Side, string, string];
const count = Number(countText);
const seconds = Number(secondsText);
const [own, other] = side === 'originator' ? ['127.60.0.1', '127.60.0.2'] : ['127.60.0.2', '127.60.0.1'];

const socket = createSocket({ type: 'udp4', lookup: (address, _options, done) => done(null, address, 4) });
const deviations = new Deviations(count, seconds);
socket.on('message', (message) => deviations.heard(message.readUInt32LE(0), performance.now()));
await new Promise<void>((resolve) => socket.bind(2222, own, resolve));

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
        socket.send(packets[i]!, 2222, other);
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
