import type { RoleBehaviour } from './roleBehaviour.js';

/**
 * An identification reader by its roles: a rising trigger, or an enable that stands, reads the tag before it; the text
 * stands until it is acknowledged or the next one is read. Each read finds the next tag.
 */
interface Reader {
  /** ms that it still reads; 0: it does not. */
  reading: number;
  valid: boolean;
  failed: boolean;
  count: number;
  text: string;
  present: boolean;
  away: boolean;
}

const readMs = 80;
/** A tag's text: made up, as long as a number with its letter. */
const tagText = (count: number): string => `T${String(count).padStart(6, '0')}`;

export const identificationReader: RoleBehaviour<Reader> = {
  title: 'an identification reader: reads a tag at each trigger',
  acts: ['trigger', 'enable', 'command code'],
  start: () => ({
    ...{ reading: 0, valid: false, failed: false, count: 0, text: '', present: true, away: false },
  }),
  step: (state, told) => {
    const tag = told.met('tag');
    const present = !state.away && (tag ?? 1) > 0;
    const comes = present && !state.present;
    const asked =
      told.given('trigger', 'rising edge') ||
      told.given('command code', 'leaving zero') ||
      (told.on('enable') && !told.values.has('trigger') && (comes || !state.valid));
    const starts = asked && state.reading === 0;
    const reading = starts ? readMs : Math.max(0, state.reading - told.elapsedMs);
    const ends = state.reading > 0 && reading === 0;
    const count = ends && present ? state.count + 1 : state.count;
    const stands = !starts && !told.on('result acknowledge');
    return {
      ...state,
      ...{ reading, present, count },
      valid: ends || (state.valid && stands),
      failed: ends ? !present : state.failed && stands,
      text: ends ? (present ? tagText(tag ?? count) : '') : state.text,
    };
  },
  shows: ({ reading, valid, failed, count, text, present }) => ({
    ready: reading === 0,
    'trigger ready': reading === 0,
    busy: reading > 0,
    running: reading > 0,
    'result valid': valid,
    done: valid,
    pass: valid && !failed,
    fail: valid && failed,
    'result text': text,
    'result length': text.length,
    'part present': present,
    'sequence number': count % 256,
    'measured value': count,
    'fault code': 0,
    faulted: false,
  }),
  faults: [
    {
      id: 'away',
      title: 'take the tag away',
      reset: 'put a tag before it',
      inject: (state) => ({ ...state, away: true }),
      clear: (state) => ({ ...state, away: false }),
    },
  ],
  health: () => 'good',
};
