import { readFile, stat } from 'node:fs/promises';
import {
  compareParameters,
  decimalPlaces,
  hexOf,
  ParameterCodec,
  placeText,
  Problem,
  tableCells,
  writePlan,
  type Cell,
  type ComparedParameter,
  type Device,
  type Outcome,
} from '@fadenkreuz/core';
import { Bench } from '../bench/bench.js';
import type { SeriesState } from '../parameters/parameterDesk.js';
import type { SeriesLine } from '../parameters/series.js';
import { Reach } from '../wire/reach.js';
import { cellOf } from './cellArgument.js';
import { exitCodes, print } from './output.js';

export interface ParametersCommand {
  json?: boolean;
  device: string;
  read?: boolean;
  compare?: string;
  write?: string;
  reach?: string[];
}

const mostBytes = 4_000_000;

/**
 * Parameters of one device: as they are planned, as they stand in it, against a file of values, or written from one. A
 * file has a line a parameter, `code or name, value`, with the first line for headings; it may be what this command
 * printed as JSON lines.
 */
export async function runParameters(
  argument: string,
  { json = false, device: name, read = false, compare, write, reach = [] }: ParametersCommand,
): Promise<number> {
  const cell = await cellOf(argument);
  const device = cell.devices.find((d) => d.name === name || d.id === name);
  if (!device) throw new Problem('edit.unknown', { what: 'device', id: name });
  const file = compare ?? write;
  const given = file === undefined ? undefined : valuesOf(device, await textOf(file));
  if (!read && !given) {
    for (const one of compareParameters(device.description.parameters, {})) printValue(json, one);
    return exitCodes.done;
  }
  const only: Cell = { ...cell, devices: [device] };
  const bench = new Bench(only, { reach: new Reach(reach) });
  await bench.start();
  try {
    return await (write && given
      ? writeAll(json, bench, device, given)
      : readAll(json, bench, device, given));
  } finally {
    await bench.stop();
  }
}

async function readAll(
  json: boolean,
  bench: Bench,
  device: Device,
  given: ReadonlyMap<string, string> | undefined,
): Promise<number> {
  await bench.parameters.ended(bench.parameters.read([{ device: device.id }]).id);
  const { values } = bench.parameters.since(0);
  const known = new Map(values.map((v) => [v.parameter, v]));
  const read = new Map(
    values.flatMap(({ parameter, bytes }) => (bytes === null ? [] : [[parameter, bytes]])),
  );
  let good = true;
  for (const one of compareParameters(device.description.parameters, { device: read, other: given })) {
    const value = known.get(one.parameter.id);
    // Against a file only what the file names is compared.
    if (given && !given.has(one.parameter.id)) continue;
    const differs = given ? one.values.other && hexIn(one, 'other') !== hexIn(one, 'device') : false;
    good &&= value?.problem == null && !differs;
    if (!given || differs || value?.problem) printValue(json, one, value);
  }
  return good ? exitCodes.done : exitCodes.findings;
}

async function writeAll(
  json: boolean,
  bench: Bench,
  device: Device,
  given: ReadonlyMap<string, string>,
): Promise<number> {
  // Who names the values has allowed writing them.
  await bench.allow();
  const steps = writePlan(device.description.parameters, given);
  if (steps.length === 0) return exitCodes.done;
  const series = bench.parameters.write([{ device: device.id, steps }]);
  await bench.parameters.ended(series.id);
  const names = new Map(device.description.parameters.map((p) => [p.id, p]));
  for (const { parameter: id, outcome, wrote, bytes, ms, problem } of bench.parameters.linesOf(series.id) ??
    []) {
    const { code, name, place } = names.get(id)!;
    print(
      json,
      { code, name, place: placeText(place), outcome, wrote, bytes, ms: rounded(ms), problem },
      `${code ? `${code} ` : ''}${name}: ${outcome}${bytes && bytes !== wrote ? `, now ${bytes}` : ''}${problem ? `. ${problem.says}` : ''}`,
    );
  }
  return allGood(series) ? exitCodes.done : exitCodes.findings;
}

const bad: readonly Outcome[] = ['changed', 'refused', 'unknown', 'not tried'];
const allGood = ({ counts }: SeriesState): boolean => bad.every((outcome) => counts[outcome] === 0);

const rounded = (ms: number) => Math.round(ms * 1000) / 1000;

const hexIn = ({ values }: ComparedParameter, source: 'device' | 'other' | 'planned'): string | null => {
  const value = values[source];
  return value && 'hex' in value ? value.hex : null;
};

function printValue(json: boolean, one: ComparedParameter, known?: SeriesLine): void {
  const { parameter, values } = one;
  const { code, name, unit, place } = parameter;
  const shown = known ? values.device : values.planned;
  const value = shown && 'hex' in shown ? shown : undefined;
  const problem = known?.problem ?? (shown && 'problem' in shown ? shown.problem : null);
  const other = values.other && 'hex' in values.other ? values.other : undefined;
  print(
    json,
    {
      ...{ code, name, place: placeText(place), bytes: value?.hex ?? null, raw: value?.raw ?? null },
      ...{ value: value?.value ?? null, text: value?.text ?? null, unit },
      ...(known ? { ms: rounded(known.ms), problem } : {}),
      ...(other ? { file: other.value } : {}),
    },
    `${code ? `${code} ` : ''}${name}: ${problem ? `${problem.says} ${problem.cure}` : (value?.text ?? 'not planned')}${other ? ` (the file: ${other.text})` : ''}`,
  );
}

async function textOf(path: string): Promise<string> {
  const cannot = (reason: string) => new Problem('input.invalid', { where: path, reason });
  const info = await stat(path).catch((cause: Error) => {
    throw cannot(`cannot be read (${cause.message})`);
  });
  if (info.size > mostBytes) throw new Problem('file.tooLarge', { bytes: info.size, limit: mostBytes });
  return readFile(path, 'utf8');
}

/** The values of a file, by the id of their parameter. Throws for what it does not know or cannot read. */
function valuesOf(device: Device, text: string): Map<string, string> {
  const { parameters } = device.description;
  const places = decimalPlaces(parameters, undefined);
  const values = new Map<string, string>();
  for (const [row, { name, value }] of rowsOf(text).entries()) {
    const folded = name.trim().toLowerCase();
    const fits = parameters.filter((p) => p.code.toLowerCase() === folded || p.name.toLowerCase() === folded);
    if (fits.length !== 1) {
      const reason =
        fits.length === 0 ? `${device.name} has no parameter “${name}”` : `“${name}” are several`;
      throw new Problem('input.invalid', { where: `row ${row + 1}`, reason });
    }
    const [parameter] = fits;
    values.set(parameter!.id, hexOf(new ParameterCodec(parameter!, places(parameter!)).written(value)));
  }
  return values;
}

function rowsOf(text: string): { name: string; value: string }[] {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  if (lines[0]?.trimStart().startsWith('{'))
    return lines.map((line, row) => {
      try {
        const { code, name, value } = JSON.parse(line) as Record<string, unknown>;
        if (typeof value === 'string') return { name: String(code || name), value };
      } catch {
        // Said below.
      }
      throw new Problem('input.invalid', {
        where: `row ${row + 1}`,
        reason: 'is no line with code and value',
      });
    });
  return tableCells(text)
    .slice(1)
    .map(([name = '', value = '']) => ({ name, value }));
}
