import { connect } from 'node:net';
import { classes, logical, services } from '@fadenkreuz/core/cip';
import ModbusRTU from 'modbus-serial';
import { EthernetIP } from 'st-ethernet-ip';
import { ExplicitClient } from '../../packages/field/src/ethernetip/explicitClient.js';
import { ModbusClient } from '../../packages/field/src/modbus/client.js';
import { answers, localAddress, openings, places, type Protocol } from './messages.js';

/**
 * One asking side: bare (a socket and a count of bytes), ours, or a library's; `flight` questions at a time. Prints how many were
 * answered in a second.
 *
 *   client.js WHO PROTOCOL FLIGHT SECONDS
 */
const [, , who, protocol, flightText, secondsText] = process.argv as [
  string,
  string,
  'bare' | 'ours' | 'library',
  Protocol,
  string,
  string,
];
const flight = Number(flightText);
const seconds = Number(secondsText);
const { address, port } = places[protocol];

/** Asks until the time is over, `flight` at once; `ask` resolves with each answer. */
async function measure(ask: () => Promise<unknown>): Promise<number> {
  let count = 0;
  const run = async (until: number) => {
    while (performance.now() < until) {
      await ask();
      count += 1;
    }
  };
  const all = (ms: number) => Promise.all(Array.from({ length: flight }, () => run(performance.now() + ms)));
  await all(500);
  count = 0;
  const from = performance.now();
  await all(seconds * 1000);
  return (count * 1000) / (performance.now() - from);
}

async function bare(): Promise<number> {
  const { question, answer } = answers[protocol];
  const socket = connect({ port, host: address, localAddress });
  socket.setNoDelay(true);
  await new Promise((resolve) => socket.once('connect', resolve));
  const opening = openings[protocol];
  const own = Buffer.from(question);
  if (opening) {
    socket.write(opening);
    const reply = await new Promise<Buffer>((resolve) => socket.once('data', resolve));
    // The bare server knows no sessions and echoes what it takes for a question.
    reply.copy(own, 4, 4, 8);
  }
  let count = 0;
  let bytes = 0;
  let measuring = false;
  socket.on('data', (data) => {
    bytes += data.length;
    while (bytes >= answer.length) {
      bytes -= answer.length;
      if (measuring) count += 1;
      socket.write(own);
    }
  });
  for (let n = 0; n < flight; n += 1) socket.write(own);
  await new Promise((resolve) => setTimeout(resolve, 500));
  measuring = true;
  const from = performance.now();
  await new Promise((resolve) => setTimeout(resolve, seconds * 1000));
  return (count * 1000) / (performance.now() - from);
}

async function ours(): Promise<number> {
  if (protocol === 'modbus') {
    const client = await ModbusClient.open({ address, port, localAddress });
    return measure(() => client.ask(255, 'readInputRegisters', { start: 1000, count: 10 }));
  }
  const client = await ExplicitClient.open({ address, localAddress });
  const path = [logical('class', classes.identity), logical('instance', 1), logical('attribute', 1)];
  const request = { service: services.getAttributeSingle, path, data: new Uint8Array() };
  return measure(() => client.request(request));
}

async function library(): Promise<number> {
  if (protocol === 'modbus') {
    const client = new ModbusRTU();
    await client.connectTCP(address, { port });
    client.setID(255);
    return measure(() => client.readInputRegisters(1000, 10));
  }
  const client = new EthernetIP.ENIP();
  await client.connect(address, 2000);
  const message = EthernetIP.CIP.MessageRouter.build(
    0x0e,
    Buffer.from([0x20, 1, 0x24, 1, 0x30, 1]),
    Buffer.alloc(0),
  );
  const waiting: (() => void)[] = [];
  client.on('SendRRData Received', () => waiting.shift()?.());
  return measure(
    () =>
      new Promise<void>((resolve) => {
        waiting.push(resolve);
        client.write_cip(message);
      }),
  );
}

const rate = await { bare, ours, library }[who]();
process.stdout.write(`${rate}\n`);
process.exit(0);
