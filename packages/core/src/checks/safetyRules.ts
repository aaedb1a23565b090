import type { StatusBit } from '../safety/safetyLogic.js';
import type { Device } from '../cell/model.js';
import { finding, type Finding } from '../messages/finding.js';
import { approvalStands } from '../safety/approval.js';
import { blockKindOf, wiresOf } from '../safety/blocks.js';
import { inOrder } from '../safety/network.js';
import { byteOf, feedbackOf } from '../safety/placement.js';
import { eachDevice, groupsBy } from './rule.js';

/** What is wrong with the networks of safety controllers, and whether they are approved. */
export const safetyLogicWrong = eachDevice((device) =>
  device.safety && device.safety.blocks.length > 0
    ? [...networkFindings(device), ...bitFindings(device), ...approvalFindings(device)]
    : [],
);

function networkFindings({ id, name, safety }: Device): Finding[] {
  const { circle } = inOrder(safety!);
  const known = new Set(safety!.blocks.map((b) => b.id));
  const open = safety!.blocks.flatMap((block) => {
    const wires = wiresOf(block);
    return blockKindOf(block).wires.flatMap((wire, i) =>
      wires[i] && known.has(wires[i].from) ? [] : [{ block: block.name, wire }],
    );
  });
  return [
    ...(circle.length > 0
      ? [
          finding(
            'safety.circle',
            'error',
            { device: id },
            { device: name, blocks: circle.map((b) => b.name).join(', ') },
          ),
        ]
      : []),
    ...open.map(({ block, wire }) =>
      finding('safety.wireMissing', 'error', { device: id }, { device: name, block, wire }),
    ),
  ];
}

/** `status: byte 2 · bit 3` */
const placeText = ({ block, offset, bit }: StatusBit) =>
  `${block ? `${block}: ` : ''}byte ${offset} · bit ${bit}`;

function bitFindings(device: Device): Finding[] {
  const { id, name, safety } = device;
  const image = feedbackOf(device);
  const outside = safety!.status.filter((bit) => !image || byteOf(bit, image) === undefined);
  const twice = groupsBy(
    safety!.status.filter((bit) => image && byteOf(bit, image) !== undefined),
    (bit) => `${byteOf(bit, image!)}.${bit.bit}`,
  ).filter((group) => group.length > 1);
  return [
    ...outside.map((bit) =>
      finding('safety.bitOutside', 'error', { device: id }, { device: name, place: placeText(bit) }),
    ),
    ...twice.map(([bit]) =>
      finding('safety.bitTwice', 'error', { device: id }, { device: name, place: placeText(bit!) }),
    ),
  ];
}

function approvalFindings(device: Device): Finding[] {
  const { id, name, safety } = device;
  if (safety!.status.length === 0 || approvalStands(device)) return [];
  const { approval } = safety!;
  return approval
    ? [
        finding(
          'safety.approvalWithdrawn',
          'warning',
          { device: id },
          { device: name, by: approval.by, at: approval.at.slice(0, 10) },
        ),
      ]
    : [finding('safety.notApproved', 'notice', { device: id }, { device: name })];
}
