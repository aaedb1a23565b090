import type { Behaviour } from '../behaviour.js';
import { cyclicOffer } from '../cyclicOffer.js';
import { bit, bytesLayout, dint, int, real, text, udint, uint, word } from '../bytesLayout.js';
import { nextSeed, swing } from '../disturbance.js';

/**
 * A vision sensor that looks at the rind. A trigger is taken while it is ready; exposure and inspection take time; the
 * result stays valid until it is acknowledged or its time is over. Some programs only take pictures: they say neither
 * pass nor fail.
 */
export interface CameraState {
  phase: 'idle' | 'exposing' | 'inspecting' | 'result' | 'changing';
  /** ms in this phase. */
  since: number;
  inspectionTime: number;
  program: number;
  nextProgram: number;
  online: boolean;
  triggerCount: number;
  resultId: number;
  verdict: 'pass' | 'fail' | 'none';
  error: number;
  score: number;
  diameter: number;
  offset: { x: number; y: number };
  colour: number;
  spots: { kind: number; x: number; y: number; size: number; depth: number; score: number }[];
  told: { trigger: boolean; acknowledge: boolean; change: boolean; clear: boolean };
  lamp: boolean;
  uptime: number;
  seed: number;
}

/** Programs that are stored; the last one takes pictures without inspecting them. */
const programs = [1, 2, 3, 7, 20];
const withoutInspection = 20;
const exposureMs = 40;
const changeMs = 600;
/** A result that nobody acknowledges is valid for so long. */
const validMs = 2000;
export const cameraErrors = { none: 0, tooDark: 3, noWheel: 7, noProgram: 12 } as const;

const commands = bytesLayout(16, {
  trigger: bit(0),
  acknowledge: bit(1),
  change_program: bit(2),
  clear_error: bit(3),
  online_request: bit(4),
  next_program: uint(16),
  wheel_id: udint(32),
});
const answers = bytesLayout(344, {
  ready: bit(0),
  trigger_acknowledge: bit(1),
  exposing: bit(2),
  busy: bit(3),
  result_valid: bit(4),
  pass: bit(5),
  fail: bit(6),
  system_error: bit(7),
  program_valid: bit(8),
  program_changing: bit(9),
  online: bit(10),
  light_fault: bit(11),
  buffer_full: bit(12),
  heartbeat: bit(13),
  program_number: uint(16),
  trigger_count: udint(32),
  inspection_time: uint(64),
  result_id: uint(80),
  error_code: uint(96),
  overall_score: int(112),
  wheel_diameter: udint(128),
  wheel_offset_x: dint(160),
  wheel_offset_y: dint(192),
  rind_colour: real(224),
  mark_text: text(256, 20),
  checksum: udint(2720),
});
/** One spot on the rind; there are up to 15, from byte 52 on. */
const spot = bytesLayout(16, {
  kind: uint(0),
  x: int(16),
  y: int(32),
  size: uint(48),
  depth: dint(64),
  score: int(96),
  state: word(112),
});
const firstSpot = 52;
const spotCount = 15;
const nothing = commands.read(new Uint8Array(16));

/** What the next inspection will find; made from the seed alone. */
function inspected(state: CameraState, wheelThere: boolean): CameraState {
  if (!state.lamp) return { ...state, verdict: 'none', error: cameraErrors.tooDark, score: -1, spots: [] };
  if (!wheelThere) return { ...state, verdict: 'none', error: cameraErrors.noWheel, score: -1, spots: [] };
  let seed = state.seed;
  const next = () => swing((seed = nextSeed(seed)));
  const count = Math.max(0, Math.round(2 + next() * 3));
  const spots = Array.from({ length: count }, () => ({
    kind: 1 + Math.floor(Math.abs(next()) * 3),
    x: next() * 150,
    y: next() * 150,
    size: 2 + Math.abs(next()) * 9,
    depth: Math.abs(next()) * 2,
    score: 60 + Math.abs(next()) * 40,
  }));
  const worst = Math.max(0, ...spots.map((s) => s.size));
  const verdict = state.program === withoutInspection ? 'none' : worst > 9.5 ? 'fail' : 'pass';
  return {
    ...state,
    verdict,
    error: cameraErrors.none,
    score: Math.max(0, 100 - worst * 4 - count),
    diameter: 320 + next() * 4,
    offset: { x: next() * 6, y: next() * 6 },
    colour: 0.62 + next() * 0.05,
    spots,
    seed,
  };
}

export const visionSensor: Behaviour<CameraState> = {
  title: 'vision sensor',
  identity: {
    vendor: 65_031,
    deviceType: 43,
    productCode: 4711,
    majorRevision: 1,
    minorRevision: 4,
    productName: 'Silberdistel OV3 camera',
  },
  offer: cyclicOffer,
  assemblies: [
    { instance: 112, use: 'command', size: commands.size, fields: commands.fields },
    { instance: 113, use: 'feedback', size: answers.size, fields: answers.fields },
    { instance: 150, use: 'configuration', size: 0, fields: [] },
    { instance: 198, use: 'input-only', size: 0, fields: [] },
  ],
  start: (seed) => ({
    phase: 'idle',
    since: 0,
    inspectionTime: 0,
    program: 1,
    nextProgram: 1,
    online: false,
    triggerCount: 0,
    resultId: 0,
    verdict: 'none',
    error: cameraErrors.none,
    score: 0,
    diameter: 0,
    offset: { x: 0, y: 0 },
    colour: 0,
    spots: [],
    told: { trigger: false, acknowledge: false, change: false, clear: false },
    lamp: true,
    uptime: 0,
    seed: nextSeed(seed),
  }),
  configure: (state) => state,

  step(before, { elapsedMs, command, run, met }) {
    const c = command && run ? commands.read(command) : nothing;
    const { told } = before;
    let state: CameraState = {
      ...before,
      since: before.since + elapsedMs,
      uptime: before.uptime + elapsedMs,
      online: c.online_request,
      told: {
        trigger: c.trigger,
        acknowledge: c.acknowledge,
        change: c.change_program,
        clear: c.clear_error,
      },
    };
    const enter = (phase: CameraState['phase']) => (state = { ...state, phase, since: 0 });
    if (c.clear_error && !told.clear) state = { ...state, error: cameraErrors.none };
    if (c.change_program && !told.change && (state.phase === 'idle' || state.phase === 'result')) {
      if (programs.includes(c.next_program)) {
        state = { ...state, nextProgram: c.next_program };
        enter('changing');
      } else state = { ...state, error: cameraErrors.noProgram };
    }
    switch (state.phase) {
      case 'idle':
      case 'result': {
        const acknowledged = c.acknowledge && !told.acknowledge;
        const over = state.since >= validMs;
        if (state.phase === 'result' && (acknowledged || over)) enter('idle');
        if (state.phase === 'idle' && c.trigger && !told.trigger && state.online) {
          const seed = nextSeed(state.seed);
          state = {
            ...state,
            triggerCount: state.triggerCount + 1,
            inspectionTime: 180 + swing(seed) * 45,
            seed,
          };
          enter('exposing');
        }
        break;
      }
      case 'exposing':
        if (state.since >= exposureMs) enter('inspecting');
        break;
      case 'inspecting':
        if (state.since >= state.inspectionTime) {
          state = inspected({ ...state, resultId: (state.resultId + 1) & 0xffff }, (met('part') ?? 1) > 0);
          enter('result');
        }
        break;
      case 'changing':
        if (state.since >= changeMs) {
          state = { ...state, program: state.nextProgram };
          enter('idle');
        }
    }
    return state;
  },

  feedback(state, into) {
    const valid = state.phase === 'result';
    answers.write(
      {
        ready: state.phase === 'idle' && state.online,
        trigger_acknowledge: state.told.trigger && state.phase !== 'idle' && state.phase !== 'changing',
        exposing: state.phase === 'exposing',
        busy: state.phase === 'exposing' || state.phase === 'inspecting',
        result_valid: valid,
        pass: valid && state.verdict === 'pass',
        fail: valid && state.verdict === 'fail',
        system_error: state.error !== cameraErrors.none,
        program_valid: state.phase !== 'changing',
        program_changing: state.phase === 'changing',
        online: state.online,
        light_fault: !state.lamp,
        buffer_full: false,
        heartbeat: Math.floor(state.uptime / 500) % 2 === 1,
        program_number: state.program,
        trigger_count: state.triggerCount,
        inspection_time: state.inspectionTime * 10,
        result_id: state.resultId,
        error_code: state.error,
        overall_score: state.score < 0 ? -1 : state.score * 100,
        wheel_diameter: state.diameter * 1000,
        wheel_offset_x: state.offset.x * 1000,
        wheel_offset_y: state.offset.y * 1000,
        rind_colour: state.colour,
        mark_text: state.resultId ? `RS3-${String(state.resultId).padStart(5, '0')}` : '',
        checksum: (state.resultId * 0x9e37_79b1) >>> 0,
      },
      into,
    );
    for (let i = 0; i < spotCount; i += 1) {
      const found = state.spots[i];
      const at = firstSpot + i * spot.size;
      spot.write(
        {
          kind: found?.kind ?? 0,
          x: (found?.x ?? 0) * 10,
          y: (found?.y ?? 0) * 10,
          size: (found?.size ?? 0) * 10,
          depth: (found?.depth ?? 0) * 1000,
          score: (found?.score ?? 0) * 100,
          state: found ? 1 : 0,
        },
        into.subarray(at, at + spot.size),
      );
    }
  },
  faults: [
    {
      id: 'lamp',
      title: 'the lamp is dark',
      reset: 'renew the lamp, then clear_error from 0 to 1',
      inject: (s) => ({ ...s, lamp: false }),
      clear: (s) => ({ ...s, lamp: true }),
    },
  ],
  health: (s) => (!s.lamp || s.error !== cameraErrors.none ? 'minor' : 'good'),
};
