import type { Role } from '../layout/role.js';

/**
 * Devices that are worked by a control word and tell their state in a status word: profiles as data, and pure state
 * machines over them. Words are as the standard numbers their bits, whatever layout they lie in (stations.ts).
 */

/** One bit of a word, and the role that it has where it stands by itself. */
export interface WordBit {
  bit: number;
  title: string;
  role: Role | null;
  /** The bit is 1 while what the role says is not so: 1 = no quick stop. */
  inverted?: true;
}

/** Bits of a word that must be so: `value` where `mask` is 1. */
export interface Pattern {
  mask: number;
  value: number;
}

export interface WordState {
  id: string;
  title: string;
  /** How the status word shows it. */
  status: Pattern;
}

export interface Transition {
  /** As the standard numbers it; empty where it does not. */
  number: string;
  from: string;
  to: string;
  title: string;
  /** What the control word must be; null: the device goes there by itself. */
  command: Pattern | null;
  /** A bit that must rise for it. */
  rises?: number;
}

export interface WordProfile {
  id: string;
  title: string;
  /** The published source; what is given from memory says so. */
  source: string;
  control: readonly WordBit[];
  status: readonly WordBit[];
  /** In the order in which the status word is asked: the first that fits. */
  states: readonly WordState[];
  transitions: readonly Transition[];
  /** From the state in which it does nothing to the one in which it works: the stations on the line. */
  line: readonly string[];
}

export const fits = (word: number, { mask, value }: Pattern): boolean => (word & mask) === value;

/** The state that a status word shows; undefined for a word that is none of them. */
export const stateOf = ({ states }: WordProfile, status: number): WordState | undefined =>
  states.find((state) => fits(status, state.status));

/** Every transition that a command can bring about from a state, in the order of the standard. */
export const openFrom = ({ transitions }: WordProfile, state: string): Transition[] =>
  transitions.filter(({ from, command }) => from === state && command !== null);

/** The device's side: the state behind one look at its control word. Pure; one transition a step. */
export function nextState(
  { transitions }: WordProfile,
  state: string,
  control: number,
  before: number,
): { state: string; by: Transition | undefined } {
  const by = transitions.find(({ from, command, rises }) => {
    if (from !== state || !command || !fits(control, command)) return false;
    return rises === undefined || ((control >> rises) & 1) > ((before >> rises) & 1);
  });
  return { state: by?.to ?? state, by };
}

/**
 * The controller's side: the transition that leads from a state towards another one, on the shortest way; undefined
 * where it is there, or where only the device itself leads on.
 */
export function stepTowards(profile: WordProfile, from: string, to: string): Transition | undefined {
  const ways = new Map<string, Transition | undefined>([[from, undefined]]);
  const open = [from];
  while (open.length > 0) {
    const here = open.shift()!;
    if (here === to) return ways.get(here);
    for (const transition of profile.transitions.filter((t) => t.from === here)) {
      if (ways.has(transition.to)) continue;
      // The first step of the way there.
      ways.set(transition.to, here === from ? transition : ways.get(here));
      open.push(transition.to);
    }
  }
  return undefined;
}

/** A control word with what a pattern wants put into it. */
export const commandWord = (control: number, { mask, value }: Pattern): number => (control & ~mask) | value;
