import { z } from 'zod';
import { int } from '../entries/entries.js';
import type { Dimension } from './dimension.js';

/**
 * What fields and bits are for, in the trade's terms: one list for all kinds of device. A role says of its field which
 * way it goes, how it is read, and what it measures.
 */

export interface RoleFacts {
  /** What people call it. */
  title: string;
  direction: 'command' | 'feedback' | 'either';
  reads: 'bit' | 'number' | 'text';
  /** What it measures; undefined: nothing, or different things. */
  dimension?: Dimension;
  /** There are several, numbered from 1. */
  numbered?: true;
  /** A wrong one could make a safety function look as if it were there: it is never taken without asking. */
  safety?: true;
}

type More = Partial<Omit<RoleFacts, 'title' | 'direction' | 'reads'>>;
const role =
  (direction: RoleFacts['direction'], reads: RoleFacts['reads']) =>
  (title: string, more: More = {}): RoleFacts => ({ title, direction, reads, ...more });
const commandBit = role('command', 'bit');
const commandNumber = role('command', 'number');
const commandText = role('command', 'text');
const feedbackBit = role('feedback', 'bit');
const feedbackNumber = role('feedback', 'number');
const feedbackText = role('feedback', 'text');
const eitherBit = role('either', 'bit');
const eitherNumber = role('either', 'number');

export const roles = {
  // Motion and drives.
  start: commandBit('start'),
  stop: commandBit('stop'),
  'quick stop': commandBit('quick stop'),
  jog: commandBit('jog'),
  direction: commandBit('direction: reverse'),
  forward: commandBit('run forward'),
  reverse: commandBit('run reverse'),
  enable: commandBit('enable'),
  'fault reset': commandBit('fault reset'),
  'network control': commandBit('control from the network'),
  'network reference': commandBit('reference from the network'),
  'speed reference': commandNumber('speed reference', { dimension: 'speed' }),
  'torque reference': commandNumber('torque reference', { dimension: 'torque' }),
  'position setpoint': commandNumber('position setpoint', { dimension: 'position' }),
  velocity: commandNumber('velocity', { dimension: 'speed' }),
  acceleration: commandNumber('acceleration'),
  deceleration: commandNumber('deceleration'),
  'setpoint strobe': commandBit('setpoint strobe'),
  'relative setpoint': commandBit('setpoint is relative'),
  'switch on': commandBit('switch on'),
  'enable voltage': commandBit('enable voltage'),
  home: commandBit('start homing'),
  'operating mode': commandNumber('operating mode'),
  'control word': commandNumber('control word'),
  'status word': feedbackNumber('status word'),
  'speed actual': feedbackNumber('speed, actual', { dimension: 'speed' }),
  'torque actual': feedbackNumber('torque, actual', { dimension: 'torque' }),
  'thermal load': feedbackNumber('thermal load'),
  'motor current': feedbackNumber('motor current', { dimension: 'current' }),
  'position actual': feedbackNumber('position, actual', { dimension: 'position' }),
  'mode shown': feedbackNumber('operating mode, shown'),
  'state number': feedbackNumber('number of the state'),
  'position lag': feedbackNumber('position lag', { dimension: 'position' }),
  'bus voltage': feedbackNumber('DC bus voltage', { dimension: 'voltage' }),
  'output voltage': feedbackNumber('output voltage', { dimension: 'voltage' }),
  'operating time': feedbackNumber('operating time'),
  energy: feedbackNumber('energy'),
  'start count': feedbackNumber('number of starts'),
  'at speed': feedbackBit('at speed'),
  ramping: feedbackBit('ramping'),
  ready: feedbackBit('ready'),
  enabled: feedbackBit('enabled'),
  running: feedbackBit('running'),
  'runs forward': feedbackBit('runs forward'),
  'runs reverse': feedbackBit('runs reverse'),
  faulted: feedbackBit('faulted'),
  warning: feedbackBit('warning'),
  'fault code': feedbackNumber('fault code'),
  'warning code': feedbackNumber('warning code'),
  'network has control': feedbackBit('the network has control'),
  'network has reference': feedbackBit('the network gives the reference'),
  'setpoint acknowledge': feedbackBit('setpoint acknowledge'),
  'target reached': feedbackBit('target reached'),
  homed: feedbackBit('homed'),
  'following error': feedbackBit('following error'),
  'ready to switch on': feedbackBit('ready to switch on'),
  'switched on': feedbackBit('switched on'),
  'voltage enabled': feedbackBit('voltage enabled'),
  'quick stop active': feedbackBit('quick stop is active'),
  'switch on disabled': feedbackBit('switching on is disabled'),
  'limit active': feedbackBit('a limit is active'),
  'limit positive': feedbackBit('limit switch at the positive end'),
  'limit negative': feedbackBit('limit switch at the negative end'),
  // Triggers and results.
  trigger: commandBit('trigger'),
  'result acknowledge': commandBit('result acknowledge'),
  'program number': commandNumber('program number'),
  'program change': commandBit('program change'),
  'trigger ready': feedbackBit('trigger ready'),
  'trigger acknowledge': feedbackBit('trigger acknowledge'),
  busy: feedbackBit('busy'),
  exposing: feedbackBit('exposing'),
  'result valid': feedbackBit('result valid'),
  pass: feedbackBit('pass'),
  fail: feedbackBit('fail'),
  'program shown': feedbackNumber('program number, shown'),
  'program changed': feedbackBit('program changed'),
  'program changing': feedbackBit('program is being changed'),
  'cycle time': feedbackNumber('time of the last cycle'),
  count: feedbackNumber('count of what it has done'),
  'result text': feedbackText('result text'),
  'result length': feedbackNumber('length of the result'),
  'angle actual': feedbackNumber('angle, actual'),
  // Weighing.
  gross: feedbackNumber('gross', { dimension: 'mass' }),
  net: feedbackNumber('net', { dimension: 'mass' }),
  'tare value': eitherNumber('tare value', { dimension: 'mass' }),
  tare: commandBit('tare'),
  zero: commandBit('zero'),
  stable: feedbackBit('stable'),
  sign: feedbackBit('sign: negative'),
  decimals: feedbackNumber('decimal places'),
  overrange: feedbackBit('overrange'),
  'warming up': feedbackBit('warming up'),
  'at zero': feedbackBit('at zero'),
  'tare applied': feedbackBit('tare applied'),
  'measured value': feedbackNumber('measured value'),
  // Exchanges by codes.
  'command code': commandNumber('command code'),
  'command value': commandNumber('command value'),
  'command answer': feedbackNumber('command answer'),
  'sequence number': eitherNumber('sequence number'),
  'format number': commandNumber('format number'),
  'variable text': commandText('variable text'),
  print: commandBit('print'),
  copies: commandNumber('copies'),
  'format shown': feedbackNumber('format number, shown'),
  printed: feedbackBit('printed'),
  remaining: feedbackNumber('supply that is left'),
  'door open': feedbackBit('door open'),
  // Robots and machines.
  hold: commandBit('hold'),
  'cycle start': commandBit('cycle start'),
  permissive: commandBit('permissive'),
  'open gripper': commandBit('open gripper'),
  'gripper closed': feedbackBit('gripper closed'),
  'program running': feedbackBit('program running'),
  'at home': feedbackBit('at home'),
  'part present': feedbackBit('part present'),
  done: feedbackBit('done'),
  'emergency stop': feedbackBit('emergency stop', { safety: true }),
  'safety in order': feedbackBit('safety in order', { safety: true }),
  'safety tripped': feedbackBit('safety has tripped', { safety: true }),
  muted: feedbackBit('muted', { safety: true }),
  'safety reset': commandBit('safety reset', { safety: true }),
  'reset wanted': feedbackBit('a reset is wanted', { safety: true }),
  beams: feedbackBit('beam', { numbered: true, safety: true }),
  'object size': feedbackNumber('size of the object', { dimension: 'position' }),
  'object position': feedbackNumber('position of the object', { dimension: 'position' }),
  // Points.
  output: commandBit('output', { numbered: true }),
  input: feedbackBit('input', { numbered: true }),
  'analogue output': commandNumber('analogue output', { numbered: true }),
  'analogue input': feedbackNumber('analogue input', { numbered: true }),
  'load power': eitherBit('load power', { numbered: true }),
  'port mode': eitherNumber('port mode', { numbered: true }),
  'port valid': feedbackBit('port valid', { numbered: true }),
  'port input length': eitherNumber('process data in of a port, bytes', { numbered: true }),
  'port output length': eitherNumber('process data out of a port, bytes', { numbered: true }),
  overload: feedbackBit('overload'),
  'supply in order': feedbackBit('supply in order'),
  // Settings.
  'start source': eitherNumber('where a start comes from'),
  'reference source': eitherNumber('where the speed reference comes from'),
  'loss reaction': eitherNumber('reaction to loss of the network'),
  'highest speed': eitherNumber('highest speed', { dimension: 'speed' }),
  'lowest speed': eitherNumber('lowest speed', { dimension: 'speed' }),
  'rated speed': eitherNumber('rated speed of the motor', { dimension: 'speed' }),
  'rated current': eitherNumber('rated current of the motor', { dimension: 'current' }),
  'current limit': eitherNumber('current limit', { dimension: 'current' }),
  // Of a drive train: the nameplate of its motor, and what follows from its mechanics.
  'rated power': eitherNumber('rated power of the motor'),
  'rated voltage': eitherNumber('rated voltage of the motor', { dimension: 'voltage' }),
  'rated frequency': eitherNumber('rated frequency of the motor'),
  'rated torque': eitherNumber('rated torque of the motor', { dimension: 'torque' }),
  'peak torque': eitherNumber('peak torque of the motor', { dimension: 'torque' }),
  poles: eitherNumber('poles of the motor'),
  'pole pairs': eitherNumber('pole pairs of the motor'),
  'rotor inertia': eitherNumber('moment of inertia of the motor'),
  'encoder increments': eitherNumber('increments of the encoder in a revolution'),
  'encoder turns': eitherNumber('revolutions that the encoder tells apart'),
  'gear motor revolutions': eitherNumber('gear: revolutions of the motor'),
  'gear shaft revolutions': eitherNumber('gear: revolutions of the shaft'),
  'feed constant': eitherNumber('feed of one revolution of the shaft'),
  'turning direction': eitherNumber('direction in which it counts'),
  'modulo range': eitherNumber('range after which it begins anew'),
  'largest acceleration': eitherNumber('largest acceleration'),
  'following error limit': eitherNumber('following error at which the drive reports a fault'),
  'quick stop deceleration': eitherNumber('deceleration of a quick stop'),
  'value order': eitherNumber('byte order of values'),
  'address method': eitherNumber('how it gets its address'),
  'device command': commandNumber('command to the device: save, restart'),
  'filter time': eitherNumber('filter time'),
  offset: eitherNumber('offset of the measured value'),
  // Requests to the devices behind a master, by registers of its own.
  'request port': eitherNumber('port of a request'),
  'request index': eitherNumber('index of a request'),
  'request value': eitherNumber('value of a request'),
  'request write': eitherBit('the request writes'),
  'request go': eitherBit('begin the request'),
  'request status': feedbackNumber('status of the request'),
  'request answer': feedbackNumber('answer to the request'),
  // Of the exchange itself.
  heartbeat: eitherBit('heartbeat'),
  'life counter': eitherNumber('life counter'),
  freshness: feedbackBit('fresh data'),
} as const satisfies Record<string, RoleFacts>;

export type Role = keyof typeof roles;
export const roleNames = Object.keys(roles) as [Role, ...Role[]];
export const factsOfRole = (name: Role): RoleFacts => roles[name];

/**
 * What of a command makes it act, where it is not what devices of the kind usually do: of a bit its level or one of its
 * edges; of a number that it changes, that it rises (a sequence number, also past its end), that it leaves zero.
 */
export const actings = [
  ...(['level', 'rising edge', 'falling edge'] as const),
  ...(['change', 'rise', 'leaving zero'] as const),
] as const;
export type Acting = (typeof actings)[number];

/** The role of a field, or of a bit; `number` tells the several of a numbered one apart. */
export const RoleOf = z.strictObject({
  is: z.enum(roleNames),
  number: int(1, 4096).nullable().default(null),
  acts: z.enum(actings).optional(),
});
export type RoleOf = z.infer<typeof RoleOf>;

/** A role in words: `output 3`, `start (falling edge)`. */
export const roleText = ({ is, number, acts }: RoleOf): string =>
  `${roles[is].title}${number === null ? '' : ` ${number}`}${acts ? ` (${acts})` : ''}`;

/** What was typed or written in a table as a role: its name or its title, with a number and what acts behind it. */
export function roleEntry(typed: string): RoleOf | undefined {
  const [, text, number, acts] =
    /^(.*?)(?:\s+(\d{1,4}))?(?:\s*\(([^)]*)\))?$/.exec(typed.trim().toLowerCase()) ?? [];
  const is = roleNames.find((name) => name === text || roles[name].title.toLowerCase() === text);
  const more = acts === undefined ? {} : { acts: acts.trim() };
  return is && RoleOf.safeParse({ is, number: number === undefined ? null : Number(number), ...more }).data;
}

/** How a field is read: as a bit, a number or a text; its bits apart where it is nothing but a string of them. */
export interface FieldReads {
  reads: 'bit' | 'number' | 'text';
  bitString: boolean;
}

/** Whether a field that is read in this way can have the role: points that are numbered may be the bits of a string. */
export const roleFits = ({ reads, numbered }: RoleFacts, as: FieldReads): boolean =>
  reads === as.reads || (numbered === true && reads === 'bit' && as.bitString);
