import { orderOf } from './conditions.js';
import type { RoleImage } from '../devices/byRoles/roleImage.js';
import type { Role } from '../layout/role.js';
import type { CommandOrder } from '../trouble/ring.js';
import { cia402, modeText } from '../motion/cia402.js';
import { speedControl, threeWire, twoWire } from '../motion/plainWords.js';
import { profidrive } from '../motion/profidrive.js';
import { protocolById } from '../protocols/list.js';
import {
  commandWord,
  fits,
  openFrom,
  stateOf,
  stepTowards,
  type Transition,
  type WordBit,
  type WordProfile,
} from '../motion/wordProfile.js';

/** All profiles; a new one is an entry here. */
export const wordProfiles: readonly WordProfile[] = [cia402, profidrive, speedControl, twoWire, threeWire];

/** Both images of a device by role; they have been read. */
export interface Words {
  command: RoleImage;
  feedback: RoleImage;
}

/** The word of an image as the profile numbers its bits: as a whole where it lies there, else bit by bit. */
function wordOf(image: RoleImage, whole: Role, bits: readonly WordBit[]): number {
  const number = image.number(whole);
  if (number !== undefined) return number & 0xffff;
  return bits.reduce((word, { bit, role, inverted }) => {
    const on = role === null ? undefined : image.bit(role);
    // What the device does not say is as it is when nothing stops it.
    return word | (Number(on === undefined ? inverted === true : on !== (inverted ?? false)) << bit);
  }, 0);
}

/**
 * The profile that the roles of a device speak of; undefined where they speak of none. A whole control word is that of
 * CiA 402 unless its protocol has another one.
 */
export function profileOf({ command, feedback }: Words, protocol: string): WordProfile | undefined {
  const words = command.has('control word') && feedback.has('status word');
  const states = command.has('switch on') && command.has('enable') && feedback.has('enabled');
  if (words || states) {
    const { controlWord } = protocolById(protocol);
    return wordProfiles.find((profile) => profile.id === controlWord) ?? cia402;
  }
  const directions = command.has('forward') && feedback.has('runs forward');
  if (directions) return speedControl;
  if (!command.has('start') || !feedback.has('running') || command.has('program number')) return undefined;
  return (command.acting('start') ?? 'level') === 'level' ? twoWire : threeWire;
}

/** A bit that must change for the next station. */
export interface MissingBit {
  title: string;
  bit: number;
  to: 0 | 1;
}

export interface Station {
  id: string;
  title: string;
  here: boolean;
}

/** Where a device stands on the line of its states, and what leads on. */
export interface Stations {
  profile: WordProfile;
  status: number;
  control: number;
  /** The state by its name; empty for a status word that is none of them. */
  state: string;
  title: string;
  /** The stations of the line, and the state where it is none of them. */
  line: Station[];
  /** Everything that a command can bring about from here. */
  open: Transition[];
  /** What leads on along the line, or back to it. */
  next: { transition: Transition; missing: MissingBit[]; order: CommandOrder | undefined } | undefined;
  /** What the bits of its operating mode say; empty where it has no modes. */
  mode: string;
}

/** Where a device stands, by a profile. */
export function stationsOf(profile: WordProfile, words: Words): Stations {
  const status = wordOf(words.feedback, 'status word', profile.status);
  const control = wordOf(words.command, 'control word', profile.control);
  const state = stateOf(profile, status);
  const goal = profile.line.at(-1)!;
  const transition = state && stepTowards(profile, state.id, goal);
  const missing = transition?.command ? missingBits(profile, control, transition) : [];
  const titles = new Map(profile.states.map(({ id, title }) => [id, title]));
  const aside = state && !profile.line.includes(state.id) ? [state.id] : [];
  return {
    ...{ profile, status, control, state: state?.id ?? '', title: state?.title ?? 'no state of the profile' },
    line: [...aside, ...profile.line].map((id) => ({
      id,
      title: titles.get(id) ?? id,
      here: id === state?.id,
    })),
    open: state ? openFrom(profile, state.id) : [],
    next: transition && {
      transition,
      missing,
      order: orderFor(words, profile, control, transition, missing),
    },
    mode: profile === cia402 ? modeOf(words, status) : '',
  };
}

function modeOf({ command, feedback }: Words, status: number): string {
  const mode = feedback.number('mode shown') ?? command.number('operating mode');
  return mode === undefined ? '' : modeText(mode, status);
}

function missingBits(
  { control: bits }: WordProfile,
  control: number,
  { command, rises }: Transition,
): MissingBit[] {
  const wanted = commandWord(control, command!);
  return bits.flatMap(({ bit, title }) => {
    const differs = ((wanted ^ control) >> bit) & 1;
    // A bit that must rise and is 1 already must go back first.
    if (!differs && bit === rises && fits(control, { mask: 1 << bit, value: 1 << bit }))
      return [{ title, bit, to: 0 as const }];
    return differs ? [{ title, bit, to: ((wanted >> bit) & 1) as 0 | 1 }] : [];
  });
}

/** One write that leads on: the whole word, or the one bit that is missing. */
function orderFor(
  words: Words,
  { control: bits }: WordProfile,
  control: number,
  { title, command, rises }: Transition,
  missing: readonly MissingBit[],
): CommandOrder | undefined {
  if (!command) return undefined;
  const scene = { ...words, open: true, runs: true, setting: () => undefined };
  const how = rises === undefined ? 'set' : 'pulse';
  if (words.command.has('control word'))
    return orderOf(scene, 'control word', { how, value: commandWord(control, command) }, title);
  if (missing.length === 0) {
    // All of it is given, and nothing came of it: a bit that stands must come again.
    const given = bits.find((b) => b.role !== null && (command.value & command.mask & (1 << b.bit)) !== 0);
    return given?.role
      ? orderOf(scene, given.role, { how: 'renew', value: true }, `${title}, anew`)
      : undefined;
  }
  const [first] = missing;
  const bit = bits.find((b) => b.bit === first?.bit);
  if (!first || !bit?.role) return undefined;
  const value = (first.to === 1) !== (bit.inverted ?? false);
  const renew = rises !== undefined && first.to === 0;
  return orderOf(scene, bit.role, renew ? { how: 'renew', value: true } : { how, value }, title);
}
