import type { Desk } from '$lib/desk/desk.svelte.js';
import {
  blockKinds,
  emptyLogic,
  LogicBlock,
  wiresOf,
  type BlockType,
  type Device,
  type LogicWire,
  type SafetyLogic,
} from '@fadenkreuz/core';

/** Changes some entries of a device's safety logic; the approval goes with a change of its content. */
export const editLogic = (desk: Desk, device: Device, set: Partial<SafetyLogic>): boolean =>
  desk.edit({
    edit: 'device.set',
    device: device.id,
    set: { safety: { ...(device.safety ?? emptyLogic), ...set } },
  });

/** A new block, called after what it is. */
export function newBlock(is: BlockType, { blocks }: Pick<SafetyLogic, 'blocks'>): LogicBlock {
  const base = blockKinds[is].title.replaceAll(/[^a-z]+/gi, '_');
  let n = 1;
  while (blocks.some(({ name }) => name === `${base}_${n}`)) n += 1;
  return LogicBlock.parse({ id: crypto.randomUUID(), name: `${base}_${n}`, is });
}

/** A block is gone, and with it the wires and status bits that read it. */
export function withoutBlock(logic: SafetyLogic, id: string): Partial<SafetyLogic> {
  const left = logic.blocks.filter((block) => block.id !== id);
  return {
    blocks: left.map((block) =>
      'in' in block ? { ...block, in: block.in.filter(({ from }) => from !== id) } : block,
    ),
    status: logic.status.filter(({ from }) => from !== id),
  };
}

const rewired = (logic: SafetyLogic, id: string, wires: LogicWire[]): Partial<SafetyLogic> => ({
  blocks: logic.blocks.map((block) => (block.id === id && 'in' in block ? { ...block, in: wires } : block)),
});

/** A block reads another one at an end; behind its last wire it has one more. */
export function withWire(logic: SafetyLogic, id: string, end: number, from: string): Partial<SafetyLogic> {
  const block = logic.blocks.find((b) => b.id === id);
  const wires = block ? [...wiresOf(block)] : [];
  const at = Math.min(end, wires.length);
  wires[at] = { not: false, ...wires[at], from };
  return rewired(logic, id, wires);
}

/** The wire at an end is gone; those behind it move up. */
export function withoutWire(logic: SafetyLogic, id: string, end: number): Partial<SafetyLogic> {
  const block = logic.blocks.find((b) => b.id === id);
  return rewired(logic, id, block ? wiresOf(block).filter((_, i) => i !== end) : []);
}
