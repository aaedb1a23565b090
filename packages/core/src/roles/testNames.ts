import type { DeviceKind } from '../devices/kinds.js';
import type { Role } from '../layout/role.js';

/**
 * Names of fields and bits as manuals of made-up devices write them, with what they are for; '-' for what has no role.
 * Invented for this: other languages, abbreviations and ways to join words are common practice.
 */
export interface NamedSignals {
  kind: DeviceKind;
  direction: 'command' | 'feedback';
  reads: 'bit' | 'number' | 'text';
  unit?: string;
  names: Partial<Record<Role | '-', string>>;
}

/** Abbreviations as manuals write them; common practice, no source. */
const short: readonly [RegExp, string][] = [
  [/command/i, 'Cmd'],
  [/actual/i, 'Act'],
  [/number/i, 'No'],
  [/position/i, 'Pos'],
  [/acknowledge/i, 'Ack'],
  [/reference/i, 'Ref'],
  [/program/i, 'Prog'],
  [/digital input/i, 'DI'],
  [/digital output/i, 'DO'],
  [/current/i, 'Curr'],
  [/temperature/i, 'Temp'],
  [/error/i, 'Err'],
  [/fault/i, 'Flt'],
  [/reset/i, 'Rst'],
  [/ready/i, 'Rdy'],
  [/request/i, 'Req'],
  [/forward/i, 'Fwd'],
  [/reverse/i, 'Rev'],
  [/speed/i, 'Spd'],
  [/torque/i, 'Trq'],
  [/velocity/i, 'Vel'],
  [/warning/i, 'Wrn'],
  [/sequence/i, 'Seq'],
  [/output/i, 'Out'],
  [/input/i, 'In'],
];
const prefixes = { bit: 'b', number: 'n', text: 's' };

/** One name in the ways in which manuals and programs write names: with blanks, joined, shortened, with a prefix. */
export function variantsOf(name: string, reads: NamedSignals['reads']): string[] {
  const words = name.split(/[\s_.-]+/);
  const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);
  // What is written as one word already has a way of its own.
  if (words.length === 1 && /[a-z][A-Z]|[A-Z]{2}/.test(name)) return [name, `Dev1.${name}`, `${name}_A1`];
  const shortened = short.reduce(
    (text, [long, abbreviated]) => text.replace(long, abbreviated),
    words.join(' '),
  );
  const plain = [
    name,
    words.join('_').toLowerCase(),
    words.map(capital).join(''),
    prefixes[reads] + words.map(capital).join(''),
    `Unit1.${words.map(capital).join('')}`,
    shortened,
    shortened.split(' ').map(capital).join(''),
    shortened.split(' ').join('_').toUpperCase(),
  ];
  return [...new Set(plain)];
}
