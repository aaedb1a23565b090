import type { BlockType, LogicBlock } from './safetyLogic.js';

/**
 * What each block of a safety controller's network does: state in, state out, time from outside. 1 is what lets the
 * machine run. Rules are those of the standards named beside them, from memory; it simulates them for a status, and is
 * no safety function.
 */

/** What is done to an input, by hand or by the machine. */
export interface InputNow {
  /** A curtain: what is in its way, mm; 0 for nothing. */
  size: number;
  position: number;
  /** A door that is closed, an emergency stop that is not pressed, a button that is. */
  on: boolean;
  /** Hands of a two-hand control. */
  left: boolean;
  right: boolean;
  /** Position of a selector. */
  mode: number;
}
export const restingInput = (is: BlockType): InputNow => ({
  ...{ size: 0, position: 0, left: false, right: false, mode: 1 },
  on: is === 'door' || is === 'emergency stop',
});

export interface BlockState {
  value: boolean;
  /** Of its inputs in the step before. */
  before: readonly boolean[];
  /** ms that something has lasted: which, is the block's own matter. */
  since: number;
  /** A muting that acts; a two-hand control or a muting that must be let go first. */
  muting: boolean;
  spent: boolean;
}
export const blockAtRest: BlockState = { value: false, before: [], since: 0, muting: false, spent: false };

interface Moment<B extends LogicBlock> {
  block: B;
  /** Values of its wires, in their order. */
  in: readonly boolean[];
  input: InputNow;
  ms: number;
}

export interface BlockKind<B extends LogicBlock> {
  title: string;
  family: 'input' | 'logic' | 'output';
  /** Names of its wires; those of `more` may be any number. */
  wires: readonly string[];
  more?: true;
  step(state: BlockState, moment: Moment<B>): BlockState;
}

const level =
  <B extends LogicBlock>(of: (moment: Moment<B>) => boolean) =>
  (state: BlockState, moment: Moment<B>): BlockState => ({ ...state, value: of(moment) });

/** Numbers of the beams, from 1, that an object leaves dark; the first stands at the curtain's lowest place. */
export function darkBeams(
  { beams, pitch, lowest }: { beams: number; pitch: number; lowest: number },
  { size, position }: Pick<InputNow, 'size' | 'position'>,
): number[] {
  if (size <= 0) return [];
  const numbers = Array.from({ length: beams }, (_, i) => i + 1);
  return numbers.filter((n) => {
    const at = lowest + (n - 1) * pitch;
    return at >= position && at <= position + size;
  });
}

/**
 * What dark beams say of the object between them: its size and its lower edge, and how far the truth may lie from
 * both: one pitch, for an edge may lie anywhere between two beams. Common practice, no source.
 */
export function objectSeen(
  { pitch, lowest }: { pitch: number; lowest: number },
  dark: readonly number[],
): { size: number; position: number; uncertainty: number } | undefined {
  if (dark.length === 0) return undefined;
  const [first, last] = [Math.min(...dark), Math.max(...dark)];
  return { size: (last - first + 1) * pitch, position: lowest + (first - 1) * pitch, uncertainty: pitch };
}

type Kinds = { [T in BlockType]: BlockKind<Extract<LogicBlock, { is: T }>> };

export const blockKinds: Kinds = {
  curtain: {
    ...{ title: 'light curtain', family: 'input', wires: [] },
    step: level(({ block, input }) => darkBeams(block, input).length === 0),
  },
  door: { ...{ title: 'door', family: 'input', wires: [] }, step: level(({ input }) => input.on) },
  'emergency stop': {
    ...{ title: 'emergency stop', family: 'input', wires: [] },
    step: level(({ input }) => input.on),
  },
  button: { ...{ title: 'button', family: 'input', wires: [] }, step: level(({ input }) => input.on) },
  'two-hand': {
    ...{ title: 'two-hand control', family: 'input', wires: [] },
    // ISO 13851: both within a time, and both let go before they act anew.
    step: (state, { block, input, ms }) => {
      const { left, right } = input;
      if (!left && !right) return { ...state, value: false, since: 0, spent: false };
      if (!(left && right))
        return { ...state, value: false, since: state.since + ms, spent: state.spent || state.value };
      const late = state.spent || state.since > block.within * 1000;
      return { ...state, value: !late, spent: late };
    },
  },
  mode: {
    ...{ title: 'mode selector', family: 'input', wires: [] },
    step: level(({ block, input }) => input.mode === block.position),
  },
  and: {
    ...{ title: 'and', family: 'logic', wires: ['in'], more: true },
    step: level((m) => m.in.length > 0 && m.in.every(Boolean)),
  },
  or: {
    ...{ title: 'or', family: 'logic', wires: ['in'], more: true },
    step: level((m) => m.in.some(Boolean)),
  },
  not: { ...{ title: 'not', family: 'logic', wires: ['in'] }, step: level((m) => !m.in[0]) },
  'delay on': {
    ...{ title: 'delay on', family: 'logic', wires: ['in'] },
    step: (state, { block, in: [on], ms }) => {
      const since = on ? (state.before[0] ? state.since + ms : 0) : 0;
      return { ...state, since, value: on === true && since >= block.after * 1000 };
    },
  },
  'delay off': {
    ...{ title: 'delay off', family: 'logic', wires: ['in'] },
    step: (state, { block, in: [on], ms }) => {
      const since = on || state.before[0] ? 0 : state.since + ms;
      return { ...state, since, value: on === true || (state.value && since < block.after * 1000) };
    },
  },
  reset: {
    ...{ title: 'reset', family: 'logic', wires: ['guards', 'reset'] },
    // ISO 13849-1, 5.2.2: a manual reset acts when its button is let go; some controllers take the press.
    step: (state, { block, in: [guards, reset] }) => {
      const [was, is] = [state.before[1] === true, reset === true];
      const edge = block.edge === 'rising' ? is && !was : was && !is;
      const starts = state.before.length === 0 && block.start === 'runs';
      return { ...state, value: guards === true && (state.value || edge || starts) };
    },
  },
  muting: {
    ...{ title: 'muting', family: 'logic', wires: ['bridges', 'first sensor', 'second sensor'] },
    // IEC 62046: begins while nothing is interrupted, with both sensors within a time, and ends with either of them.
    step: (state, { block, in: [guards, a, b], ms }) => {
      const both = a === true && b === true;
      const one = a === true || b === true;
      if (!one) return { ...state, value: guards === true, muting: false, since: 0, spent: false };
      const since = state.before[1] || state.before[2] ? state.since + ms : 0;
      const begins = both && !state.muting && !state.spent && guards === true && since <= block.within * 1000;
      const lasts = state.muting && both && since <= block.longest * 1000;
      const muting = begins || lasts;
      return {
        ...{ ...state, muting, since: begins ? 0 : since, value: guards === true || muting },
        spent: state.spent || (state.muting && !muting) || (both && !muting),
      };
    },
  },
  output: {
    ...{ title: 'output', family: 'output', wires: ['in'] },
    step: level((m) => m.in[0] === true),
  },
};

export const blockKindOf = (block: LogicBlock): BlockKind<LogicBlock> =>
  blockKinds[block.is] as BlockKind<LogicBlock>;
export const wiresOf = (block: LogicBlock) => ('in' in block ? block.in : []);
