import { maxImageBytes } from '../../entries/entries.js';
import type { Code, Facts } from '../../messages/facts.js';
import { Problem, type ProblemReport } from '../../messages/problem.js';

/** A connection point as a manual's line gives it: its assembly instance, and its size in bytes where it says one. */
export interface LinePoint {
  instance: number;
  bytes: number | undefined;
}

/** What a line of a manual says of a device's connection. */
export interface ManualLine {
  command?: LinePoint;
  feedback?: LinePoint;
  configuration?: LinePoint;
  /** Requested packet interval, ms. */
  rpiMs?: number;
  doubts: ProblemReport[];
}

type Side = 'command' | 'feedback' | 'configuration';

/** Words that manuals use, in the languages in which they are often at hand; common practice, no source. */
const sides: readonly [RegExp, Side, clear: boolean][] = [
  [/^(t->o|t2o|t-o|target|producer?|produced|producing|feedback|tx)$/, 'feedback', true],
  [/^(o->t|o2t|o-t|originator|consumer?|consumed|consuming|command|commands|rx)$/, 'command', true],
  [
    /^(cfg|config|conf|configuration|konfiguration|konfig|configurazione|configuración)$/,
    'configuration',
    true,
  ],
  [
    /^(in|input|inputs|eingang|eingänge|eingangsdaten|ingresso|ingressi|entrée|entrées|entrada)$/,
    'feedback',
    false,
  ],
  [
    /^(out|output|outputs|ausgang|ausgänge|ausgangsdaten|uscita|uscite|sortie|sorties|salida)$/,
    'command',
    false,
  ],
];
/** Bits of what sizes are counted in. */
const units: readonly [RegExp, number][] = [
  [/^(bytes?|octets?|usint|sint|8-?bits?)$/, 8],
  [/^(words?|uint|int|16-?bits?|worte?|wörter)$/, 16],
  [/^(dwords?|udint|dint|real|32-?bits?|doppelworte?|double-?words?)$/, 32],
  [/^(lwords?|ulint|lint|64-?bits?)$/, 64],
  [/^bits?$/, 1],
];
const sizeWords = /^(size|sizes|length|len|größe|länge|dimensione|taille)$/;
const fillers =
  /^(assembly|instance|instances|inst|id|point|no|nr|number|of|the|and|data|image|connection|format|elements?|each|=|with|in|at)$/;

interface Said {
  instance?: number;
  size?: number;
  unit?: number;
  clear: boolean;
}

const tokens = (text: string): string[] =>
  text
    .toLowerCase()
    .replace(/→/g, '->')
    .replace(/16#|\b0x|#(?=[0-9a-f])/g, ' 0x')
    .replace(/\b([0-9a-f]+)h\b/g, ' 0x$1')
    .replace(/(\d)\s*(?:-\s*)?(bits?)\b/g, '$1-$2')
    .split(/[\s,;:()[\]|/]+/)
    .filter(Boolean);

const numberOf = (token: string): number | undefined =>
  /^0x[0-9a-f]{1,4}$/.test(token) ? parseInt(token, 16) : /^\d{1,5}$/.test(token) ? Number(token) : undefined;

const find = <Row extends readonly [RegExp, ...unknown[]]>(table: readonly Row[], token: string) =>
  table.find(([words]) => words.test(token));

const doubt = <C extends Code>(code: C, facts: Facts[C]): ProblemReport => new Problem(code, facts).report();

/**
 * A line of a manual or of another program's table, such as `input 131 size 7, output 141 size 6, configuration 151
 * size 0, 32-bit`: the instances and sizes that it names, and what of it is doubtful. Input and output are taken as the
 * controller's (ODVA Vol. 1, 3-6: target to originator is an input), unless the line says produced, T→O and the like.
 * Undefined when it names no instance at all.
 */
export function readManualLine(text: string): ManualLine | undefined {
  const said = new Map<Side, Said>();
  const unread: string[] = [];
  let side: Side | undefined;
  let expects: 'instance' | 'size' | 'rpi' | undefined;
  let rpiMs: number | undefined;
  let common: number | undefined;
  for (const token of tokens(text)) {
    const now = side && said.get(side);
    const named = find(sides, token);
    const unit = find(units, token)?.[1];
    const number = numberOf(token);
    if (named) {
      side = named[1];
      // "input assembly (T→O)" names the same side twice; "output (T→O)" would be read by the clearer word.
      if (!said.has(side)) said.set(side, { clear: named[2] });
      else if (named[2]) said.get(side)!.clear = true;
      expects = said.get(side)!.instance === undefined ? 'instance' : 'size';
    } else if (now && now.size === undefined && expects === 'size' && /^\d+-bits$/.test(token)) {
      // "16 bits" in the place of a size is one; "16-bit" says what sizes are counted in.
      now.size = parseInt(token, 10);
      now.unit = 1;
    } else if (sizeWords.test(token)) expects = 'size';
    else if (/^(rpi|update)$/.test(token)) expects = 'rpi';
    else if (unit !== undefined) {
      // Behind a size it is that size's unit; alone it is everybody's.
      if (now && now.size !== undefined && now.unit === undefined && expects !== 'instance') now.unit = unit;
      else common = unit;
    } else if (number !== undefined && expects === 'rpi') rpiMs = number;
    else if (number !== undefined && now && expects === 'instance') {
      now.instance = number;
      expects = 'size';
    } else if (number !== undefined && now && now.size === undefined) now.size = number;
    else if (!fillers.test(token) && token !== 'ms') unread.push(token);
  }
  const points = [...said].filter(([, one]) => one.instance !== undefined);
  if (points.length === 0) return undefined;

  const doubts: ProblemReport[] = [];
  // A unit behind the last size, and behind no other, is everybody's.
  const own = points.flatMap(([, one]) => (one.unit === undefined ? [] : [one.unit]));
  const shared = common ?? (own.length === 1 && points.length > 1 ? own[0] : undefined);
  const line: ManualLine = { doubts };
  for (const [which, { instance, size, unit }] of points) {
    const bits = unit ?? shared;
    const bytes = size === undefined ? undefined : Math.ceil((size * (bits ?? 8)) / 8);
    line[which] = { instance: instance!, bytes };
    if (bytes !== undefined && bytes > maxImageBytes)
      doubts.push(doubt('manualLine.tooLarge', { side: which, bytes, limit: maxImageBytes }));
    if (bytes === undefined && which !== 'configuration')
      doubts.push(doubt('manualLine.noSize', { side: which, instance: instance! }));
  }
  if (rpiMs !== undefined) line.rpiMs = rpiMs;
  const unclear = points.filter(([, one]) => !one.clear).map(([which]) => which);
  if (unclear.length > 0) doubts.push(doubt('manualLine.whoseInput', {}));
  const counted = points.some(([, one]) => one.size);
  if (counted && shared === undefined && own.length === 0) doubts.push(doubt('manualLine.noUnit', {}));
  for (const side of ['command', 'feedback'] as const)
    if (!line[side]) doubts.push(doubt('manualLine.sideMissing', { side }));
  if (line.command && line.command.instance === line.feedback?.instance)
    doubts.push(doubt('manualLine.sameInstance', { instance: line.command.instance }));
  if (line.configuration?.bytes)
    doubts.push(doubt('manualLine.configurationData', { bytes: line.configuration.bytes }));
  if (unread.length > 0) doubts.push(doubt('manualLine.unread', { text: unread.join(' ').slice(0, 60) }));
  return line;
}
