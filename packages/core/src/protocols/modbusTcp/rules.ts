import { holdsBits } from '../../layout/registerTables.js';
import { imageTitle } from '../../layout/image.js';
import { finding, type Finding } from '../../messages/finding.js';
import { setLink, type LinkedDevice, type LinkRule } from '../protocol.js';
import { blockBytes, type Block, type ModbusTcpLink, type ModbusTcpOffer } from './link.js';

type Rule = LinkRule<ModbusTcpLink, ModbusTcpOffer>;

const eachBlock =
  (judge: (device: LinkedDevice, link: ModbusTcpLink, block: Block) => Finding[]): Rule =>
  ({ device, link }) =>
    link.blocks.flatMap((block) => judge(device, link, block));

/** A link that exchanges nothing. */
export const someBlocks: Rule = ({ device, link }) =>
  link.blocks.length > 0
    ? []
    : [finding('block.none', 'warning', { device: device.id }, { device: device.name })];

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
export const blocksOverlap: Rule = ({ device, link }) =>
  (['command', 'feedback'] as const).flatMap((direction) => {
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

/** Registers that the device is described not to have; one too far counts from another base as a rule. */
export const blockAgainstDescription: Rule = ({ device, link }) => {
  const ranges = device.description.points.flatMap(({ registers, size }) =>
    registers ? [{ ...registers, count: holdsBits(registers.table) ? size * 8 : size / 2 }] : [],
  );
  if (ranges.length === 0) return [];
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
    const fix: Finding['fix'] =
      cure === undefined
        ? undefined
        : {
            title: `Start ${block.name} at ${cure}`,
            edit: setLink(link, {
              blocks: link.blocks.map((b) => (b.id === block.id ? { ...b, start: cure } : b)),
            }),
          };
    return [finding('block.noSuchRegisters', 'error', { device: device.id }, facts, fix)];
  });
};
