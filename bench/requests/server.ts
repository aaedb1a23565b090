import { createServer } from 'node:net';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile } from '@fadenkreuz/core';
import { ServerTCP } from 'modbus-serial';
import { Schedule } from '../../packages/field/src/timing/schedule.js';
import { StandIn } from '../../packages/field/src/standIns/standIn.js';
import { answers, openings, placeOf, type Protocol } from './messages.js';

/**
 * One answering side: bare (cuts nothing, knows nothing, copies the eight or two bytes that an answer brings back),
 * ours, or a library's.
 *
 *   server.js WHO PROTOCOL PAIR
 */
const [, , who, protocol, pairText] = process.argv as [
  string,
  string,
  'bare' | 'ours' | 'library',
  Protocol,
  string,
];
const { address, port, device } = placeOf(protocol, Number(pairText));

if (who === 'bare') {
  const { question, answer, echoFrom, echoTo } = answers[protocol];
  const server = createServer((socket) => {
    socket.setNoDelay(true);
    socket.on('error', () => undefined);
    const opening = openings[protocol];
    socket.on('data', (data) => {
      if (opening && data.length === opening.length) {
        data.writeUInt32LE(1, 4);
        socket.write(data);
        return;
      }
      // Everything that has come holds whole questions: they are small and written as a whole.
      for (let at = 0; at + question.length <= data.length; at += question.length) {
        const reply = Buffer.from(answer);
        data.copy(reply, echoFrom, at + echoFrom, at + echoTo);
        socket.write(reply);
      }
    });
  });
  await new Promise<void>((resolve) => server.listen(port, address, resolve));
} else if (who === 'library') {
  const vector = { getHoldingRegister: (n: number) => n, getInputRegister: (n: number) => n };
  const server = new ServerTCP(vector, { host: address, port, unitID: 255 });
  await new Promise((resolve) => server.once('initialized', resolve));
} else {
  const model = readCellFile(JSON.stringify(demo)).devices.find((d) => d.name === device)!;
  const planned = { ...model, address: `10.${address.split('.').slice(1).join('.')}` };
  await new StandIn(planned, { schedule: new Schedule() }).open();
}
process.stdout.write('ready\n');
