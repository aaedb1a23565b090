import type { Role } from '../../layout/role.js';
import type { Indicator, NetworkState } from '../indicators.js';
import { lag } from '../motions.js';
import type { Told } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';
import type { RoleImage, RoleValues } from './roleImage.js';

/**
 * An IO-Link master by its roles, with a device at each port: data are valid once a port has load power and stands in
 * the mode that its device needs; it tells the mode and the power that it was given. A port of which it shows nothing
 * but an input has a switch, any other one an IO-Link device. What the machine has a device measure, or what is put out
 * at its port, is what it shows; without power it stays where it is.
 */
interface Master {
  ports: readonly Port[];
  ms: number;
  /** Of port 1 the device is unplugged; of port 2 somebody has taken the load power, or changed the mode. */
  unplugged: boolean;
  powerLost: boolean;
  wrongMode: boolean;
  /** Whether a request stands, and what the last one was answered. */
  asked: boolean;
  answer: { status: number; value: number };
}

interface Port {
  valid: boolean;
  powered: boolean;
  mode: number;
  /** It stands in the mode that its device needs; what that is. */
  right: boolean;
  needs: Mode;
  /** ms that it has been what it is. */
  since: number;
  /** Undefined: nothing says what it measures. */
  value: number | undefined;
}

type Mode = 'IO-Link' | 'input';
/** Words of the labels of a mode, and its number where it has no labels; common practice, no source. */
const modes: Readonly<Record<Mode, { word: RegExp; usual: number }>> = {
  'IO-Link': { word: /io-?link/i, usual: 1 },
  input: { word: /\b(digital )?in(put)?\b|\bDI\b|switch/i, usual: 2 },
};
/** What a device takes to start up behind a port, and an actor to follow; ms; common practice, no source. */
const startMs = 300;
const followsMs = 350;
/** The port of the faults that concern one. */
const faultyPort = 2;

const portsOf = (told: Told): number => {
  const last = (values: readonly number[]) => values.at(-1) ?? 0;
  const commanded = (['port mode', 'load power', 'output', 'analogue output'] as Role[]).map((role) =>
    last(told.values.numbers(role)),
  );
  return Math.max(4, ...commanded, last(told.shown('port valid')));
};

/** What hangs on a port, by what the master shows of it. */
const neededAt = (n: number, inputs: readonly number[], analogues: readonly number[]): Mode =>
  inputs.includes(n) && !analogues.includes(n) && analogues.length > 0 ? 'input' : 'IO-Link';

/** Whether a port stands in a mode: its label says so, else its number; every port does where none can be set. */
function standsIn(told: Told, n: number, mode: Mode): boolean {
  const { values } = told;
  const set = told.parameter('port mode', n);
  if (!values.numbers('port mode').includes(n)) {
    if (!set) return true;
    return set.label === undefined ? set.value !== 0 : modes[mode].word.test(set.label);
  }
  const number = values.number('port mode', n) ?? 0;
  const label = values.label('port mode', n);
  if (/[a-z]/i.test(label)) return modes[mode].word.test(label);
  return mode === 'IO-Link' ? number !== 0 : number === modes[mode].usual;
}

function nextPort(state: Master, told: Told, n: number): Port {
  const before = state.ports[n - 1];
  const needs = neededAt(n, told.shown('input'), told.shown('analogue input'));
  const struck = n === faultyPort;
  const switchedOff =
    told.values.bit('load power', n) === false || told.parameter('load power', n)?.value === 0;
  const powered = !switchedOff && !(struck && state.powerLost);
  const right = standsIn(told, n, needs) && !(struck && state.wrongMode);
  const up = powered && right && !(state.unplugged && n === 1);
  const since = up ? (before?.since ?? 0) + told.elapsedMs : 0;
  const valid = since >= startMs;
  const measured = told.met(`measured ${n}`);
  const ordered = told.commanded ? told.values.number('analogue output', n) : 0;
  const follows = told.values.numbers('analogue output').includes(n);
  const actor = valid
    ? lag(before?.value ?? 0, ordered ?? 0, told.elapsedMs, followsMs)
    : (before?.value ?? 0);
  return {
    ...{ valid, powered, right, needs, since },
    mode: told.values.number('port mode', n) ?? 0,
    value: measured ?? (follows ? actor : undefined),
  };
}

/**
 * Error words of requests: numbers of our own for a port without power and in the wrong mode; no such index, and one
 * that cannot be written (IO-Link, ISDU errors 16#8011 and 16#8023; from memory).
 */
const requestErrors = {
  noPower: 0x1001,
  wrongMode: 0x1002,
  noIndex: 0x8011,
  readOnly: 0x8023,
} as const;

/** What the device of a port answers: IO-Link index 16 vendor, 18 product, 24 tag, 100 a setting of its own. */
function answered({ values }: Told, ports: readonly Port[]): Master['answer'] {
  const refused = (status: number) => ({ status, value: 0 });
  const n = values.number('request port') ?? 0;
  const port = ports[n - 1];
  if (values.bit('request write')) return refused(requestErrors.readOnly);
  if (!port) return refused(requestErrors.noIndex);
  if (!port.powered) return refused(requestErrors.noPower);
  if (!port.valid || port.needs !== 'IO-Link') return refused(requestErrors.wrongMode);
  const known: Readonly<Record<number, number>> = { 16: 1014, 18: 300 + n, 24: n, 100: 250 * n };
  const value = known[values.number('request index') ?? 0];
  return value === undefined ? refused(requestErrors.noIndex) : { status: 0, value };
}

const lightOf =
  ({ powered: supplied }: NetworkState) =>
  ({ powered, valid, right, needs }: Port, i: number): Indicator => {
    const name = `port ${i + 1}`;
    if (!supplied || !powered)
      return { name, colour: 'off', pattern: 'steady', means: 'no load power', when: 'no power' };
    if (!right)
      return { name, colour: 'amber', pattern: 'steady', means: `not in ${needs} mode`, when: 'other mode' };
    if (!valid)
      return { name, colour: 'green', pattern: 'flashing', means: 'no device talks', when: 'silent' };
    return needs === 'IO-Link'
      ? { name, colour: 'green', pattern: 'steady', means: 'the device talks', when: 'talks' }
      : { name, colour: 'green', pattern: 'steady', means: 'switched input', when: 'switched' };
  };

/** A fault of one port that somebody has made: the settings say otherwise, the port does as the fault wants. */
const portFault = (id: string, part: 'powerLost' | 'wrongMode', title: string, reset: string) => ({
  ...{ id, title, reset },
  inject: (state: Master): Master => ({ ...state, [part]: true }),
  clear: (state: Master): Master => ({ ...state, [part]: false }),
});

export const ioLinkMaster: RoleBehaviour<Master> = {
  title: 'an IO-Link master: a device at each port, once the port has power and mode',
  acts: ['port mode', 'port valid', 'load power'],
  start: () => ({
    ...{ ports: [], ms: 0, unplugged: false, powerLost: false, wrongMode: false },
    ...{ asked: false, answer: { status: 0, value: 0 } },
  }),
  step: (state, told) => {
    const ports = Array.from({ length: portsOf(told) }, (_, i) => nextPort(state, told, i + 1));
    const asked = told.values.bit('request go') === true;
    const answer = asked && !state.asked ? answered(told, ports) : state.answer;
    return { ...state, ms: state.ms + told.elapsedMs, ports, asked, answer };
  },
  shows: ({ ports, ms, unplugged, wrongMode, answer }, feedback) => ({
    'port valid': ports.map(({ valid }) => valid),
    'load power': ports.map(({ powered }) => powered),
    'port mode': ports.map(({ mode }, i) => (wrongMode && i === faultyPort - 1 ? modes.input.usual : mode)),
    input: ports.map(({ valid, needs }, i) =>
      needs === 'input' ? valid : valid && Math.floor(ms / (1500 + 100 * i)) % 2 === 1,
    ),
    'analogue input': ports.map(({ valid, value }, i) => {
      const { low, high } = feedback.range('analogue input', i + 1) ?? { low: 0, high: 100 };
      if (!valid) return Math.max(low, 0);
      return value ?? low + (high - low) * (0.5 - 0.4 * Math.cos(ms / (2000 + 100 * i)));
    }),
    'request status': answer.status,
    'request answer': answer.value,
    faulted: unplugged,
    ready: ports.some(({ valid }) => valid),
  }),
  presets: (settings: RoleImage, feedback: RoleValues) => {
    const needs = (n: number) => neededAt(n, feedback.numbers('input'), feedback.numbers('analogue input'));
    settings.show({
      'port mode': Array.from({ length: settings.numbers('port mode').at(-1) ?? 0 }, (_, i) => {
        const { word, usual } = modes[needs(i + 1)];
        return settings.labelled('port mode').find(({ text }) => word.test(text))?.value ?? usual;
      }),
      'load power': Array.from({ length: settings.numbers('load power').at(-1) ?? 0 }, () => true),
    });
  },
  faults: [
    {
      id: 'unplugged',
      title: 'unplug the device of port 1',
      reset: 'plug it in again',
      inject: (state) => ({ ...state, unplugged: true }),
      clear: (state) => ({ ...state, unplugged: false }),
    },
    portFault('port-power', 'powerLost', 'port 2 loses its load power', 'bring the load power back'),
    portFault('port-mode', 'wrongMode', 'port 2 is in the wrong mode', 'set port 2 to its mode'),
  ],
  health: ({ unplugged }) => (unplugged ? 'minor' : 'good'),
  lights: ({ ports }, network) => ports.map(lightOf(network)),
};
