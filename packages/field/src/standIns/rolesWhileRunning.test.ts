import { applyEdit, codecOf, type Cell } from '@fadenkreuz/core';
import { afterEach, expect, test } from 'vitest';
import { Bench } from '../bench/bench.js';
import { climateCell, until } from '../testBench.js';
import { bitsFirst, ethernetIpLink, handMade, kindsByRoles } from './testKinds.js';

let bench: Bench;
afterEach(() => bench.stop());

const drive = kindsByRoles.find(({ kind }) => kind === 'variable-speed drive')!;

test('a device that is given its roles while it runs acts from then on, whatever came in between', async () => {
  const link = ethernetIpLink([bitsFirst(drive.commands), bitsFirst(drive.answers)]);
  const whole = handMade(drive.kind, '10.99.47', 21, link);
  const bare = (field: (typeof whole.links)[0]['command']['fields'][0]) => ({ ...field, role: null });
  const [planned] = whole.links;
  const base = climateCell();
  let cell: Cell = {
    ...base,
    controller: { ...base.controller, address: '10.99.47.1' },
    network: { ...base.network, subnet: '10.99.47.0/24' },
    devices: [
      {
        ...whole,
        links: [
          {
            ...planned!,
            // A link that a halt of the machine ends is opened without its commands.
            timeoutMultiplier: 512,
            command: { ...planned!.command, fields: planned!.command.fields.map(bare) },
            feedback: { ...planned!.feedback, fields: planned!.feedback.fields.map(bare) },
          },
        ],
      },
    ],
  };
  bench = new Bench(cell);
  await bench.start();
  await until(() => bench.report()[0]!.state === 'open');
  // One edit after the other, as they are taken from the proposals; nobody waits for the bench between them.
  const updates: Promise<void>[] = [];
  for (const image of [planned!.command, planned!.feedback])
    for (const { id, role } of image.fields) {
      cell = applyEdit(cell, { edit: 'field.set', image: image.id, field: id, set: { role } });
      updates.push(bench.update(cell));
    }
  await Promise.all(updates);
  await until(() => bench.report()[0]!.state === 'open');
  const { id } = whole;
  const fieldOf = (name: string) => planned!.command.fields.find((f) => f.name === name)!.id;
  bench.write(id, fieldOf('speed_reference'), '10');
  bench.write(id, fieldOf('start'), '1');
  const codec = codecOf(cell.devices[0]!.links[0]!.feedback);
  await until(() => {
    const bytes = Buffer.from(bench.report()[0]!.feedback, 'base64');
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.length));
    return codec.numbers[codec.signals.findIndex((s) => s.name === 'speed_actual')] === 10;
  });
  expect(bench.report()[0]!.state).toBe('open');
});
