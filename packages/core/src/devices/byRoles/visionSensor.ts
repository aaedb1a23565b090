import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * A vision sensor by its roles: a rising trigger, while it is ready, starts an inspection; the result stands until it
 * is acknowledged, or until the next trigger where nothing acknowledges. A rising program change takes the program
 * number over.
 */
interface Vision {
  /** ms that the inspection, and the change of program, still take; 0: none. */
  inspecting: number;
  changing: number;
  valid: boolean;
  pass: boolean;
  count: number;
  program: number;
  changed: boolean;
  triggered: boolean;
  faultCode: number;
  dark: boolean;
}

const inspectionMs = 120;
const changeMs = 400;
/** Of so many parts one fails. */
const failsEvery = 5;
/** No light: a number of our own, for there is no standard of them. */
export const darkCode = 31;

export const visionSensor: RoleBehaviour<Vision> = {
  title: 'a vision sensor: inspects at each trigger',
  acts: ['trigger', 'program change'],
  start: () => ({
    ...{ inspecting: 0, changing: 0, valid: false, pass: false, count: 0, program: 0, changed: false },
    ...{ triggered: false, faultCode: 0, dark: false },
  }),
  step: (state, told) => {
    const { elapsedMs } = told;
    const starts = told.given('trigger', 'rising edge') && isReady(state);
    const inspecting = starts ? inspectionMs : Math.max(0, state.inspecting - elapsedMs);
    const ends = state.inspecting > 0 && inspecting === 0;
    const count = ends ? state.count + 1 : state.count;
    const changes = told.given('program change', 'rising edge') && state.inspecting === 0;
    const changing = changes ? changeMs : Math.max(0, state.changing - elapsedMs);
    const changed = state.changing > 0 && changing === 0;
    return {
      ...state,
      ...{ inspecting, changing, count },
      triggered: told.on('trigger'),
      valid: ends || (state.valid && !starts && !told.on('result acknowledge')),
      pass: ends ? count % failsEvery !== 0 && (told.met('part') ?? 1) > 0 : state.pass,
      program: changed ? Math.max(0, Math.round(told.number('program number') ?? 0)) : state.program,
      // It stands as long as it is asked for, as an answer does.
      changed: changed || (state.changed && told.on('program change') && !changes),
      faultCode:
        state.dark && ends
          ? darkCode
          : told.given('fault reset', 'rising edge') && !state.dark
            ? 0
            : state.faultCode,
    };
  },
  shows: (state) => {
    const { inspecting, valid, pass, count, program, changed, triggered, faultCode } = state;
    const ready = isReady(state);
    return {
      ready,
      'trigger ready': ready,
      'trigger acknowledge': triggered,
      busy: inspecting > 0,
      'result valid': valid,
      pass: valid && pass,
      fail: valid && !pass,
      'program shown': program,
      'program changed': changed,
      'measured value': count % 100,
      'sequence number': count % 256,
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
  health: ({ faultCode }) => (faultCode === 0 ? 'good' : 'minor'),
};

const isReady = ({ inspecting, changing, faultCode }: Vision): boolean =>
  inspecting === 0 && changing === 0 && faultCode === 0;
