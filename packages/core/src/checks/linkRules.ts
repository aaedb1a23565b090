import { behaviours } from '../behaviours/behaviours.js';
import type { Behaviour } from '../behaviours/behaviour.js';
import { blockBytes, type Block, type Link } from '../cell/link.js';
import { imageTitle } from '../cell/find.js';
import type { Cell, Device } from '../cell/model.js';
import { finding, type Finding } from '../messages/finding.js';
import type { Rule } from './rule.js';

const eachLink =
  (judge: (device: Device, link: Link, known: Behaviour<unknown> | undefined) => Finding[]): Rule =>
  (cell: Cell) =>
    cell.devices.flatMap((device) =>
      device.links.flatMap((link) =>
        judge(device, link, device.standIn ? behaviours[device.standIn] : undefined),
      ),
    );

const eachBlock = (judge: (device: Device, link: Link, block: Block) => Finding[]): Rule =>
  eachLink((device, link) =>
    link.protocol === 'modbus-tcp' ? link.blocks.flatMap((block) => judge(device, link, block)) : [],
  );

/** A block reaches past its image, or past the last address of its table. */
export const blockInPlace: Rule = eachBlock((device, link, block) => {
  const image = link[block.direction];
  const place = { device: device.id, image: image.id };
  const title = imageTitle(device, image.direction);
  const bytes = blockBytes(block);
  return [
    ...(block.at + bytes > image.size
      ? [
          finding('block.pastImage', 'error', place, {
            block: block.name,
            image: title,
            endsAtByte: block.at + bytes - 1,
            size: image.size,
          }),
        ]
      : []),
    ...(block.start + block.count > 0x1_0000
      ? [finding('block.pastTable', 'error', place, { block: block.name, device: device.name })]
      : []),
  ];
});

/** Two blocks of one direction share bytes of the image. */
export const blocksOverlap: Rule = eachLink((device, link) => {
  if (link.protocol !== 'modbus-tcp') return [];
  return (['command', 'feedback'] as const).flatMap((direction) => {
    const blocks = link.blocks.filter((b) => b.direction === direction).sort((a, b) => a.at - b.at);
    return blocks.slice(1).flatMap((later, i) => {
      const before = blocks[i]!;
      if (later.at >= before.at + blockBytes(before)) return [];
      const place = { device: device.id, image: link[direction].id };
      return [
        finding('block.overlap', 'error', place, {
          first: before.name,
          second: later.name,
          image: imageTitle(device, direction),
          byte: later.at,
        }),
      ];
    });
  });
});

/** A block of commands in a table that can only be read (Modbus Application Protocol V1.1b3, 4.3). */
export const blockReadOnly: Rule = eachBlock((device, _link, block) =>
  block.direction === 'command' && (block.table === 'input' || block.table === 'discrete')
    ? [
        finding(
          'block.readOnly',
          'error',
          { device: device.id },
          { block: block.name, device: device.name, table: block.table },
        ),
      ]
    : [],
);

/** Registers that the kind of device is known not to have; one too far counts from another base as a rule. */
export const blockAgainstDevice: Rule = eachLink((device, link, known) => {
  if (link.protocol !== 'modbus-tcp' || known?.reached.protocol !== 'modbus-tcp') return [];
  const ranges = known.assemblies.flatMap((a) =>
    a.registers ? [{ ...a.registers, count: a.size / 2 }] : [],
  );
  return link.blocks.flatMap((block) => {
    const inside = (start: number, table = block.table) =>
      ranges.some((r) => r.table === table && start >= r.start && start + block.count <= r.start + r.count);
    if (inside(block.start)) return [];
    // Reference 400001 is address 0: a manual's number is one too high, or carries the digit of its table.
    const cure = [block.start - 1, block.start + 1, block.start % 10_000, (block.start % 10_000) - 1].find(
      (s) => inside(s),
    );
    const facts = {
      block: block.name,
      device: device.name,
      first: block.start,
      last: block.start + block.count - 1,
      known: ranges.map((r) => `${r.table} ${r.start} to ${r.start + r.count - 1}`).join(', '),
    };
    const mend: Finding['mend'] =
      cure === undefined
        ? undefined
        : {
            title: `Start ${block.name} at ${cure}`,
            edit: {
              edit: 'link.set',
              link: link.id,
              set: { blocks: link.blocks.map((b) => (b.id === block.id ? { ...b, start: cure } : b)) },
            },
          };
    return [finding('block.noSuchRegisters', 'error', { device: device.id }, facts, mend)];
  });
});

/** What the device does on loss is decided by how it is asked, or by its configuration data; the plan says otherwise. */
export const lossAgainstLink: Rule = eachLink((device, link, known) => {
  const decided = lossOf(link, known);
  if (!decided || decided.loss === link.onLoss) return [];
  const facts = { device: device.name, planned: link.onLoss, why: decided.why, does: decided.loss };
  return [
    finding('link.lossContradicts', 'warning', { device: device.id }, facts, {
      title: `Say that it ${decided.loss === 'drop' ? 'drops its outputs' : 'holds the last state'}`,
      edit: { edit: 'link.set', link: link.id, set: { onLoss: decided.loss } },
    }),
  ];
});

function lossOf(
  link: Link,
  known: Behaviour<unknown> | undefined,
): { loss: Link['onLoss']; why: string } | undefined {
  if (link.connection === 'polled-connected')
    return { loss: 'drop', why: 'requests over a connection are dropped with it' };
  if (link.connection === 'polled-unconnected')
    return { loss: 'hold', why: 'requests without a connection have nothing that could be lost' };
  const data = Uint8Array.from(link.configuration.data.match(/../g) ?? [], (pair) => parseInt(pair, 16));
  const loss = known?.lossOf?.(data);
  return loss && { loss, why: 'its configuration data say so' };
}

/** A way to open that the kind of device is known not to offer. */
export const linkAgainstDevice: Rule = eachLink((device, link, known) => {
  if (!known) return [];
  const place = { device: device.id };
  const { reached } = known;
  if (reached.protocol !== link.protocol)
    return [
      finding('link.otherProtocol', 'error', place, {
        device: device.name,
        planned: link.protocol,
        speaks: reached.protocol,
      }),
    ];
  if (reached.protocol !== 'ethernet-ip') return [];
  const polled = link.connection.startsWith('polled');
  if (!reached.cyclic)
    return polled
      ? []
      : [
          finding(
            'link.notCyclic',
            'error',
            place,
            { device: device.name },
            {
              title: 'Ask for its assemblies at a poll time',
              edit: {
                edit: 'link.set',
                link: link.id,
                set: { connection: 'polled-connected', onLoss: 'drop' },
              },
            },
          ),
        ];
  if (polled) return [];
  const commands = link.connection !== 'exclusive-owner' || link.commandFormat === reached.commandFormat;
  if (commands && link.feedbackFormat === reached.feedbackFormat) return [];
  const set = { commandFormat: reached.commandFormat, feedbackFormat: reached.feedbackFormat } as Pick<
    Link,
    'commandFormat' | 'feedbackFormat'
  >;
  return [
    finding(
      'link.formatDiffers',
      'error',
      place,
      { device: device.name, command: reached.commandFormat, feedback: reached.feedbackFormat },
      { title: 'Take the formats of the device', edit: { edit: 'link.set', link: link.id, set } },
    ),
  ];
});
