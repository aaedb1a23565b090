import { objectSeen } from '../../safety/blocks.js';
import { SafetyRun } from '../../safety/network.js';
import { placedBits } from '../../safety/placement.js';
import type { BlockType, SafetyLogic } from '../../safety/safetyLogic.js';
import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A safety controller with a light curtain by its roles, as far as its status goes: an object passes through the beams
 * in turn and is seen in steps of them; after an interruption it waits for its reset, where it has one. Nothing of it
 * is a safety function.
 */
interface Curtain {
  /** Lowest edge and size of what is in the way, mm above the lowest beam; a size of 0: nothing. */
  position: number;
  size: number;
  /** Numbers of the beams that do not arrive. */
  dark: readonly number[];
  /** ms since the last object came. */
  since: number;
  waits: boolean;
  steps: number;
  misaligned: boolean;
  /** Its own logic at work, where it is said. */
  run: SafetyRun | undefined;
}

/** mm from beam to beam: common practice for a hand, no source. */
const pitch = 20;
const usualBeams = 16;
/** How often an object comes, how long it stays, ms, and what it is, mm. */
const everyMs = 8000;
const staysMs = 2000;
const usualObject = { position: 60, size: 50 };
/** The beam that looks past its receiver. */
const misalignedBeam = 1;

/** The beams, of so many, that an object leaves dark; the first stands at 0. */
const usuallyDark = ({ position, size }: Pick<Curtain, 'position' | 'size'>, count: number): number[] =>
  Array.from({ length: count }, (_, i) => i + 1).filter(
    (n) => size > 0 && (n - 1) * pitch >= position && (n - 1) * pitch <= position + size,
  );

const firstCurtain = ({ blocks }: SafetyLogic) => blocks.find((block) => block.is === 'curtain');

const resets = ({ blocks }: SafetyLogic, button: string): boolean =>
  blocks.some((block) => block.is === 'reset' && block.in[1]?.from === button);

/** Its own logic one step on; undefined where none is said. */
function stepped(
  before: SafetyRun | undefined,
  told: Told,
  object: { position: number; size: number },
): SafetyRun | undefined {
  const { safety } = told.design;
  if (!safety || safety.blocks.length === 0) return undefined;
  const run = before?.logic === safety ? before : (before?.following(safety) ?? new SafetyRun(safety));
  const first = firstCurtain(safety);
  for (const block of safety.blocks) {
    const { id, name } = block;
    const met = told.met(name);
    if (block.is === 'curtain')
      run.set(
        id,
        block === first
          ? object
          : { size: told.met(`${name} size`) ?? 0, position: told.met(`${name} position`) ?? 0 },
      );
    else if (block.is === 'two-hand')
      run.set(id, {
        left: (told.met(`${name} left`) ?? 0) !== 0,
        right: (told.met(`${name} right`) ?? 0) !== 0,
      });
    else if (block.is === 'mode') run.set(id, { mode: met ?? 1 });
    // A reset that comes over the network presses the buttons that reset.
    else if (block.is === 'button')
      run.set(id, { on: (met ?? 0) !== 0 || (resets(safety, id) && told.on('safety reset')) });
    else if (block.is === 'door' || block.is === 'emergency stop') run.set(id, { on: (met ?? 1) !== 0 });
  }
  run.step(told.elapsedMs);
  return run;
}

const blocksOf = (run: SafetyRun, is: BlockType) => run.logic.blocks.filter((block) => block.is === is);
/** All of its outputs are on; without one, all that it reads lets the machine run. */
function outputsOn(run: SafetyRun): boolean {
  const outputs = blocksOf(run, 'output');
  const asked =
    outputs.length > 0 ? outputs : [...blocksOf(run, 'curtain'), ...blocksOf(run, 'emergency stop')];
  return asked.every(({ id }) => run.value(id));
}
const pressed = (run: SafetyRun): boolean => blocksOf(run, 'emergency stop').some(({ id }) => !run.value(id));
const objectOf = (run: SafetyRun) => {
  const curtain = firstCurtain(run.logic);
  return curtain && (objectSeen(curtain, run.dark(curtain)) ?? { size: 0, position: 0 });
};

export const lightCurtain: RoleBehaviour<Curtain> = {
  title: 'a safety controller: status of a light curtain through which an object passes',
  acts: ['beams', 'safety in order', 'safety tripped', 'muted', 'object size'],
  start: () => ({
    position: 0,
    size: 0,
    dark: [],
    since: 0,
    waits: false,
    steps: 0,
    misaligned: false,
    run: undefined,
  }),
  step: (state, told) => {
    const since = (state.since + told.elapsedMs) % everyMs;
    const own = since > everyMs - staysMs ? usualObject : { position: 0, size: 0 };
    const size = told.met('object size') ?? own.size;
    const position = told.met('object position') ?? own.position;
    const seen = usuallyDark({ position, size }, told.shown('beams').at(-1) ?? usualBeams);
    const dark = state.misaligned ? [...new Set([misalignedBeam, ...seen])] : seen;
    const reset = told.given('safety reset', 'rising edge');
    const run = stepped(state.run, told, { position, size });
    const curtain = run && firstCurtain(run.logic);
    if (run)
      return {
        ...state,
        ...{ run, since, size, position, steps: state.steps + 1 },
        dark: curtain ? run.dark(curtain) : [],
        waits: run.logic.blocks.some(({ id }) => run.waits(id)),
      };
    return {
      ...state,
      ...{ since, size, position, dark, steps: state.steps + 1 },
      // After an interruption somebody must look and reset.
      waits: dark.length > 0 ? told.values.has('safety reset') : state.waits && !reset,
    };
  },
  shows: ({ dark, waits, misaligned, steps, run }, feedback) => {
    const inOrder = run ? outputsOn(run) : dark.length === 0 && !waits;
    const seen = run && objectOf(run);
    const [low = 0] = dark;
    return {
      beams: Array.from({ length: feedback.numbers('beams').at(-1) ?? 0 }, (_, i) => dark.includes(i + 1)),
      ready: !misaligned,
      'safety in order': inOrder,
      'safety tripped': !inOrder,
      'reset wanted': waits,
      'emergency stop': run ? pressed(run) : false,
      muted: run?.logic.blocks.some(({ id }) => run.mutes(id)) ?? false,
      'object size': seen ? seen.size : dark.length === 0 ? 0 : (dark.at(-1)! - low + 1) * pitch,
      'object position': seen ? seen.position : dark.length === 0 ? 0 : (low - 1) * pitch,
      faulted: misaligned,
      'fault code': misaligned ? 1 : 0,
      input: [dark.length === 0],
      'life counter': steps % 256,
      heartbeat: steps % 2 === 0,
    };
  },
  places: ({ run }, feedback, design) => {
    if (!run) return;
    for (const { status, byte } of placedBits(design)) {
      const mask = 1 << status.bit;
      feedback[byte] = run.shows(status) ? feedback[byte]! | mask : feedback[byte]! & ~mask;
    }
  },
  faults: [
    {
      id: 'misaligned',
      title: 'put its first beam out of line',
      reset: 'align it, then reset',
      inject: (state) => ({ ...state, misaligned: true }),
      clear: (state) => ({ ...state, misaligned: false }),
    },
  ],
  health: ({ misaligned }) => (misaligned ? 'minor' : 'good'),
};
