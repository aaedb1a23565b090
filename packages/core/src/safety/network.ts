import type { LogicBlock, SafetyLogic, StatusBit } from './safetyLogic.js';
import {
  blockAtRest,
  blockKindOf,
  darkBeams,
  restingInput,
  wiresOf,
  type BlockState,
  type InputNow,
} from './blocks.js';

/** The blocks of a network in an order in which each one comes behind what it reads; those of a circle are left out. */
export function inOrder({ blocks }: Pick<SafetyLogic, 'blocks'>): {
  order: LogicBlock[];
  circle: LogicBlock[];
} {
  const order: LogicBlock[] = [];
  const done = new Set<string>();
  const known = new Set(blocks.map(({ id }) => id));
  let left = [...blocks];
  for (;;) {
    const ready = left.filter((block) =>
      wiresOf(block).every(({ from }) => done.has(from) || !known.has(from)),
    );
    if (ready.length === 0) return { order, circle: left };
    for (const block of ready) done.add(block.id);
    order.push(...ready);
    left = left.filter(({ id }) => !done.has(id));
  }
}

/** A network at work, step by step: what comes in, what its blocks are, what its status bits show. */
export class SafetyRun {
  private readonly order: readonly LogicBlock[];
  private readonly states = new Map<string, BlockState>();
  /** What is done to its inputs, by block. */
  readonly inputs = new Map<string, InputNow>();

  constructor(readonly logic: SafetyLogic) {
    this.order = inOrder(logic).order;
    for (const block of logic.blocks) {
      this.states.set(block.id, blockAtRest);
      if (blockKindOf(block).family === 'input') this.inputs.set(block.id, restingInput(block.is));
    }
  }

  /** Another network: blocks that stay keep what they are in. */
  following(logic: SafetyLogic): SafetyRun {
    const next = new SafetyRun(logic);
    for (const [id, state] of this.states) if (next.states.has(id)) next.states.set(id, state);
    for (const [id, input] of this.inputs) if (next.inputs.has(id)) next.inputs.set(id, input);
    return next;
  }

  set(id: string, part: Partial<InputNow>): void {
    const input = this.inputs.get(id);
    if (input) this.inputs.set(id, { ...input, ...part });
  }

  step(ms: number): void {
    for (const block of this.order) {
      const before = this.states.get(block.id)!;
      const read = wiresOf(block).map(({ from, not }) => (this.states.get(from)?.value ?? false) !== not);
      const input = this.inputs.get(block.id) ?? restingInput(block.is);
      const next = blockKindOf(block).step(before, { block, in: read, input, ms });
      this.states.set(block.id, { ...next, before: read });
    }
  }

  value(id: string): boolean {
    return this.states.get(id)?.value ?? false;
  }

  /** A muting that acts. */
  mutes(id: string): boolean {
    return this.states.get(id)?.muting ?? false;
  }

  /** A reset whose machine is safe again, and that nobody has acknowledged. */
  waits(id: string): boolean {
    const state = this.states.get(id);
    return state?.before[0] === true && !state.value;
  }

  /** What a status bit shows. */
  shows({ from, shows, beam, not }: StatusBit): boolean {
    const block = this.logic.blocks.find(({ id }) => id === from);
    const is =
      shows === 'muting'
        ? this.mutes(from)
        : shows === 'reset wanted'
          ? this.waits(from)
          : shows === 'beam'
            ? block?.is === 'curtain' && !this.dark(block).includes(beam)
            : this.value(from);
    return is !== not;
  }

  /** Numbers of the dark beams of a curtain. */
  dark(block: Extract<LogicBlock, { is: 'curtain' }>): number[] {
    return darkBeams(block, this.inputs.get(block.id) ?? restingInput('curtain'));
  }
}
