import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A vision sensor by its roles: a rising trigger, while it is ready, starts exposure and inspection; the result stands
 * until it is acknowledged or its time is over, or until the next trigger where nothing acknowledges. A rising program
 * change takes the program number over; where the field of the number says which programs there are, another one is a
 * fault, and one called a picture inspects nothing.
 */
interface Vision {
  /** ms that the inspection, and the change of program, still take; 0: none. */
  inspecting: number;
  changing: number;
  /** ms that the result has stood; the time that it took. */
  validMs: number;
  valid: boolean;
  verdict: 'pass' | 'fail' | 'none';
  /** Triggers that were taken, and results. */
  triggers: number;
  count: number;
  program: number;
  nextProgram: number;
  changed: boolean;
  triggered: boolean;
  enabled: boolean;
  faultCode: number;
  dark: boolean;
  ms: number;
}

const inspectionMs = 120;
const exposureMs = 40;
const changeMs = 400;
/** A result that nobody acknowledges is valid for so long, where it can be acknowledged. */
const longestValidMs = 2000;
/** Of so many parts one fails. */
const failsEvery = 5;
/** Numbers of our own, for there is no standard of them: no light, no part, no such program. */
const visionFaults = { dark: 3, noPart: 7, noProgram: 12 } as const;

/** What the inspection that ends now finds. */
function found(state: Vision, told: Told): Pick<Vision, 'verdict' | 'faultCode'> {
  if (state.dark) return { verdict: 'none', faultCode: visionFaults.dark };
  if ((told.met('part') ?? 1) <= 0) return { verdict: 'none', faultCode: visionFaults.noPart };
  const called = told.values.labelled('program number').find(({ value }) => value === state.program);
  if (called && /picture|image/i.test(called.text)) return { verdict: 'none', faultCode: 0 };
  return { verdict: (state.count + 1) % failsEvery === 0 ? 'fail' : 'pass', faultCode: 0 };
}

export const visionSensor: RoleBehaviour<Vision> = {
  title: 'a vision sensor: inspects at each trigger',
  acts: ['trigger', 'program change'],
  start: () => ({
    ...{ inspecting: 0, changing: 0, validMs: 0, valid: false, verdict: 'none', triggers: 0, count: 0 },
    ...{ program: 0, nextProgram: 0, changed: false, triggered: false, enabled: false },
    ...{ faultCode: 0, dark: false, ms: 0 },
  }),
  step: (before, told) => {
    const { elapsedMs, values } = told;
    const enabled = !values.has('enable') || told.on('enable');
    const cleared = told.given('fault reset', 'rising edge') && !before.dark;
    const state = { ...before, enabled, faultCode: cleared ? 0 : before.faultCode };
    const known = values.labelled('program number');
    const asked = Math.max(0, Math.round(told.number('program number') ?? 1));
    const changes = told.given('program change', 'rising edge') && state.inspecting === 0;
    const missing = changes && known.length > 0 && !known.some(({ value }) => value === asked);
    const begins = changes && !missing;
    const starts = told.given('trigger', 'rising edge') && isReady(state);
    const inspecting = starts ? inspectionMs : Math.max(0, state.inspecting - elapsedMs);
    const ends = state.inspecting > 0 && inspecting === 0;
    const changing = begins ? changeMs : Math.max(0, state.changing - elapsedMs);
    const changed = state.changing > 0 && changing === 0;
    const validMs = ends ? 0 : state.validMs + elapsedMs;
    const over = values.has('result acknowledge') && validMs >= longestValidMs;
    const result = ends ? found(state, told) : state;
    return {
      ...state,
      ...{ inspecting, changing, validMs, ms: state.ms + elapsedMs },
      triggers: state.triggers + Number(starts),
      count: state.count + Number(ends),
      triggered: told.on('trigger'),
      valid: ends || (state.valid && !starts && !over && !told.on('result acknowledge')),
      verdict: result.verdict,
      nextProgram: begins ? asked : state.nextProgram,
      program: changed ? state.nextProgram : state.program,
      // It stands as long as it is asked for, as an answer does.
      changed: changed || (state.changed && told.on('program change') && !changes),
      faultCode: missing ? visionFaults.noProgram : result.faultCode || state.faultCode,
    };
  },
  shows: (state) => {
    const { inspecting, valid, verdict, count, triggered, faultCode } = state;
    const ready = isReady(state);
    return {
      ready,
      'trigger ready': ready,
      'trigger acknowledge': triggered,
      exposing: inspecting > inspectionMs - exposureMs,
      busy: inspecting > 0,
      'result valid': valid,
      pass: valid && verdict === 'pass',
      fail: valid && verdict === 'fail',
      enabled: state.enabled,
      'program shown': state.program,
      'program changing': state.changing > 0,
      'program changed': state.changed,
      'measured value': count % 100,
      'sequence number': count % 256,
      count: state.triggers,
      'cycle time': count > 0 ? inspectionMs : 0,
      'result text': count > 0 ? `R${String(count).padStart(5, '0')}` : '',
      'result length': count > 0 ? 6 : 0,
      heartbeat: Math.floor(state.ms / 500) % 2 === 1,
      warning: state.dark,
      faulted: faultCode !== 0,
      'fault code': faultCode,
    };
  },
  faults: [
    {
      id: 'dark',
      title: 'switch its light off',
      reset: 'light, then fault reset',
      inject: (state) => ({ ...state, dark: true }),
      clear: (state) => ({ ...state, dark: false }),
    },
  ],
  health: ({ faultCode, dark }) => (faultCode === 0 && !dark ? 'good' : 'minor'),
};

const isReady = ({ inspecting, changing, enabled }: Vision): boolean =>
  inspecting === 0 && changing === 0 && enabled;
