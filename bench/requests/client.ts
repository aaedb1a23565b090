import { connect } from 'node:net';
import { createInterface } from 'node:readline';
import { classes, logical, services } from '@fadenkreuz/core/ethernet-ip';
import ModbusRTU from 'modbus-serial';
import { EthernetIP } from 'st-ethernet-ip';
import { ExplicitClient } from '../../packages/field/src/protocols/ethernetIp/explicitClient.js';
import { ModbusClient } from '../../packages/field/src/protocols/modbusTcp/client.js';
import { answers, openings, placeOf, type Protocol } from './messages.js';

/**
 * One asking side: bare (a socket and a count of bytes), ours, or a library's; `flight` questions at a time. For each
 * line on its standard input it asks for so many milliseconds, and prints how many were answered in a second.
 *
 *   client.js WHO PROTOCOL PAIR FLIGHT
 */
const [, , who, protocol, pairText, flightText] = process.argv as [
  string,
  string,
  'bare' | 'ours' | 'library',
  Protocol,
  string,
  string,
];
const flight = Number(flightText);
const { address, port, localAddress } = placeOf(protocol, Number(pairText));
/** Asks for so many ms; answers a second. */
type Slice = (ms: number) => Promise<number>;

/** A slice of `flight` questions at once; `ask` resolves with each answer. */
function slicesOf(ask: () => Promise<unknown>): Slice {
  return async (ms) => {
    let count = 0;
    const from = performance.now();
    const until = from + ms;
    const run = async () => {
      while (performance.now() < until) {
        await ask();
        count += 1;
      }
    };
    await Promise.all(Array.from({ length: flight }, run));
    return (count * 1000) / (performance.now() - from);
  };
}

async function bare(): Promise<Slice> {
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
  let asked = 0;
  let until = 0;
  let done: () => void = () => undefined;
  socket.on('data', (data) => {
    bytes += data.length;
    const goesOn = performance.now() < until;
    while (bytes >= answer.length) {
      bytes -= answer.length;
      count += 1;
      if (goesOn) socket.write(own);
      else if ((asked -= 1) === 0) done();
    }
  });
  return async (ms) => {
    count = 0;
    const from = performance.now();
    until = from + ms;
    asked = flight;
    const ended = new Promise<void>((resolve) => (done = resolve));
    for (let n = 0; n < flight; n += 1) socket.write(own);
    await ended;
    return (count * 1000) / (performance.now() - from);
  };
}

async function ours(): Promise<Slice> {
  if (protocol === 'modbus') {
    const client = await ModbusClient.open({ address, port, localAddress });
    return slicesOf(() => client.ask(255, 'readInputRegisters', { start: 1000, count: 10 }));
  }
  const client = await ExplicitClient.open({ address, localAddress });
  const path = [logical('class', classes.identity), logical('instance', 1), logical('attribute', 1)];
  const request = { service: services.getAttributeSingle, path, data: new Uint8Array() };
  return slicesOf(() => client.request(request));
}

async function library(): Promise<Slice> {
  if (protocol === 'modbus') {
    const client = new ModbusRTU();
    await client.connectTCP(address, { port });
    client.setID(255);
    return slicesOf(() => client.readInputRegisters(1000, 10));
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
  return slicesOf(
    () =>
      new Promise<void>((resolve) => {
        waiting.push(resolve);
        client.write_cip(message);
      }),
  );
}

const slice = await { bare, ours, library }[who]();
process.stdout.write('ready\n');
for await (const line of createInterface({ input: process.stdin }))
  process.stdout.write(`${await slice(Number(line))}\n`);
process.exit(0);
