import type { Behaviour } from '../behaviour.js';
import { cyclicOffer } from '../cyclicOffer.js';
import { bit, bits, bytesLayout, udint, uint } from '../bytesLayout.js';

/**
 * A safety controller with a light curtain of 16 beams at the lift gate. What it tells the controller is status only.
 */
export interface CurtainState {
  /** Bit set: the beam arrives. */
  beams: number;
  /** mm above the lowest beam, and mm; 0 while nothing is in the way. */
  position: number;
  size: number;
  restartWanted: boolean;
  told: boolean;
  cycles: number;
  /** A beam that never arrives, because sender and receiver do not look at each other. */
  misaligned: boolean;
}

const beamCount = 16;
/** mm from beam to beam. */
const pitch = 20;
/** Height of the lowest beam above the lift's zero, mm. */
const lowest = 600;
const allBeams = 0xffff;

const commands = bytesLayout(2, { acknowledge: bit(0) });
const answers = bytesLayout(12, {
  gate_clear: bit(0),
  curtain_ok: bit(1),
  muted: bit(2),
  restart_wanted: bit(3),
  beams: bits(16, 16),
  object_position: uint(32),
  object_size: uint(48),
  cycle_count: udint(64),
});

/** Which beams an object from `from` to `to` (mm above the lift's zero) leaves alone. */
export function beamsPast(from: number, to: number): number {
  let clear = 0;
  for (let i = 0; i < beamCount; i += 1) {
    const height = lowest + i * pitch;
    if (height < from || height > to) clear |= 1 << i;
  }
  return clear;
}

export const lightCurtain: Behaviour<CurtainState> = {
  title: 'safety controller with light curtain',
  identity: {
    vendor: 65_012,
    deviceType: 43,
    productCode: 88,
    majorRevision: 1,
    minorRevision: 6,
    productName: 'Gratweg SG16 safety controller',
  },
  offer: cyclicOffer,
  assemblies: [
    { instance: 112, use: 'command', size: commands.size, fields: commands.fields },
    { instance: 113, use: 'feedback', size: answers.size, fields: answers.fields },
    { instance: 102, use: 'configuration', size: 0, fields: [] },
    { instance: 198, use: 'input-only', size: 0, fields: [] },
    { instance: 199, use: 'listen-only', size: 0, fields: [] },
  ],
  start: () => ({
    beams: allBeams,
    position: 0,
    size: 0,
    restartWanted: false,
    told: false,
    cycles: 0,
    misaligned: false,
  }),
  configure: (state) => state,

  step(state, { command, run, met }) {
    const acknowledge = command && run ? commands.read(command).acknowledge : false;
    const size = met('object size') ?? 0;
    const from = met('object position') ?? 0;
    const seen = size > 0 ? beamsPast(from, from + size) : allBeams;
    const beams = state.misaligned ? seen & ~(1 << 9) : seen;
    const blocked = Array.from({ length: beamCount }, (_, i) => i).filter((i) => !((beams >> i) & 1));
    const interrupted = blocked.length > 0;
    const rises = acknowledge && !state.told;
    return {
      ...state,
      beams,
      position: interrupted ? blocked[0]! * pitch : 0,
      size: interrupted ? (blocked.at(-1)! - blocked[0]! + 1) * pitch : 0,
      // After an interruption somebody must look and acknowledge.
      restartWanted: interrupted || (state.restartWanted && !rises),
      told: acknowledge,
      cycles: (state.cycles + 1) >>> 0,
    };
  },
  feedback(state, into) {
    answers.write(
      {
        gate_clear: state.beams === allBeams && !state.restartWanted,
        curtain_ok: !state.misaligned,
        muted: false,
        restart_wanted: state.restartWanted,
        beams: state.beams,
        object_position: state.position,
        object_size: state.size,
        cycle_count: state.cycles,
      },
      into,
    );
  },
  faults: [
    {
      id: 'misaligned',
      title: 'a beam is misaligned',
      reset: 'align the curtain, then acknowledge from 0 to 1',
      inject: (s) => ({ ...s, misaligned: true }),
      clear: (s) => ({ ...s, misaligned: false }),
    },
  ],
  health: (s) => (s.misaligned ? 'minor' : 'good'),
};
