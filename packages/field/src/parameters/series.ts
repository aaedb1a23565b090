import {
  bytesOfHex,
  hexOf,
  placeText,
  Problem,
  type Device,
  type Outcome,
  type Parameter,
  type ProblemReport,
  type WriteStep,
} from '@fadenkreuz/core';
import { setTimeout as sleep } from 'node:timers/promises';
import { nothingHeard, type HeardRequest } from '../capture/heardFrames.js';
import type { ParameterAccess } from '../protocols/parameterAccess.js';

/** One parameter of a series, as it ended. */
export interface SeriesLine {
  device: string;
  parameter: string;
  outcome: Outcome;
  /** What was written, and what stands there now as far as that was read; hex pairs. */
  wrote: string | null;
  bytes: string | null;
  /** From the request to its answer, ms. */
  ms: number;
  problem: ProblemReport | null;
  /** When it ended, ms since 1970. */
  at: number;
  /** Its place among all lines that are kept, from 1; 0 before that. */
  number: number;
}

/** One object from the answer to the browser: each copy would cost as much as making the request. */
const lineOf = (
  device: Device,
  parameter: string,
  outcome: Outcome,
  wrote: string | null,
  bytes: string | null,
  ms: number,
  problem: ProblemReport | null,
): SeriesLine => ({
  device: device.id,
  parameter,
  outcome,
  wrote,
  bytes,
  ms,
  problem,
  at: Date.now(),
  number: 0,
});

/** What a series asks of one device. */
export interface Reads {
  device: Device;
  parameters: readonly Parameter[];
}
export interface Writes {
  device: Device;
  steps: readonly WriteStep[];
}

export interface SeriesOptions {
  signal: AbortSignal;
  /** Called with each line as it ends, and what stood on the wire for it, which holds for the time of the call. */
  onLine: (line: SeriesLine, heard: HeardRequest) => void;
  /** Called before a write is sent. */
  onTry?: () => void;
  /** Whether writing is still allowed. */
  mayWrite?: () => boolean;
  /** Pauses before a request is repeated, ms. */
  pauses?: readonly number[];
}

/** A device that is lost or busy is asked again after these pauses, ms: its own start takes a second or two. */
const usualPauses = [200, 500, 1500] as const;

const sizeOf = ({ bits }: Parameter) => Math.ceil(bits / 8);
const isProblem = (error: unknown): error is Problem => error instanceof Problem;
const reasonOf = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** Whether asking once more may help: the device is busy, or was not heard. */
const maybeLater = (error: unknown): boolean =>
  !isProblem(error) ||
  (error.code === 'parameter.refused' && (error.facts as { refusal: string }).refusal === 'busy');

/**
 * Reads parameters of one device in turn; a read may be repeated, for it changes nothing. What came is noted while the
 * device works on the next request.
 */
export async function readSeries(
  { device, parameters }: Reads,
  access: ParameterAccess,
  options: SeriesOptions,
): Promise<void> {
  let lost = false;
  let line: SeriesLine | undefined;
  let messages = nothingHeard;
  const note = () => {
    if (line) options.onLine(line, messages);
    line = undefined;
    messages = nothingHeard;
  };
  const ended = (
    parameter: Parameter,
    outcome: Outcome,
    bytes: Uint8Array | null,
    ms: number,
    why?: Problem,
  ) => {
    line = lineOf(device, parameter.id, outcome, null, bytes && hexOf(bytes), ms, why?.report() ?? null);
  };
  for (const parameter of parameters) {
    const place = placeOf(device, parameter);
    const untried = lost || options.signal.aborted;
    if (untried || isProblem(place) || parameter.access === 'write') {
      note();
      if (untried) ended(parameter, 'not tried', null, 0);
      else ended(parameter, 'refused', null, 0, isProblem(place) ? place : notRead(device, parameter));
      continue;
    }
    const size = sizeOf(parameter);
    const before = performance.now();
    const asked = access.read(place, size);
    note();
    try {
      let bytes: Uint8Array;
      try {
        bytes = await asked;
      } catch (error) {
        bytes = await readAgain(error, access, place, size, options);
      }
      ended(parameter, 'read', bytes, performance.now() - before);
    } catch (error) {
      lost = !isProblem(error);
      const why = isProblem(error) ? error : noAnswer('parameter.noAnswer', device, place, error);
      ended(parameter, lost ? 'unknown' : 'refused', null, performance.now() - before, why);
    }
    messages = heard(access);
  }
  note();
}

const heard = (access: ParameterAccess): HeardRequest => access.heard?.() ?? nothingHeard;

/**
 * Writes parameters of one device in turn and reads each back. A write is never repeated: whoever does not answer it is
 * asked what stands there. After the first one of which nobody knows, nothing more is written.
 */
export async function writeSeries(
  { device, steps }: Writes,
  access: ParameterAccess,
  options: SeriesOptions,
): Promise<void> {
  let stopped = false;
  for (const step of steps) {
    const parameter = device.description.parameters.find((p) => p.id === step.parameter);
    const end = ({ outcome, bytes, problem }: Ended, ms = 0, messages = nothingHeard) =>
      options.onLine(lineOf(device, step.parameter, outcome, step.bytes, bytes, ms, problem), messages);
    if (options.signal.aborted || stopped || options.mayWrite?.() === false) {
      // What was opened by a key is locked again, also when somebody cancels.
      if (step.why !== 'lock' || stopped || options.mayWrite?.() === false) {
        end({ outcome: 'not tried', bytes: null, problem: null });
        continue;
      }
    }
    const place = parameter ? placeOf(device, parameter) : undefined;
    if (!parameter || !place || isProblem(place)) {
      end({ outcome: 'refused', bytes: null, problem: isProblem(place) ? place.report() : null });
      continue;
    }
    const before = performance.now();
    const value = bytesOfHex(step.bytes);
    options.onTry?.();
    const ended = await writeOne(device, parameter, place, value, access, options);
    end(ended, performance.now() - before, heard(access));
    // Without its key nothing behind it is taken; without a device neither.
    stopped = ended.outcome === 'unknown' || (step.why === 'key' && ended.outcome === 'refused');
  }
}

type Place = NonNullable<Parameter['place']>;
type Ended = Pick<SeriesLine, 'outcome' | 'bytes' | 'problem'>;

async function writeOne(
  device: Device,
  parameter: Parameter,
  place: Place,
  value: Uint8Array,
  access: ParameterAccess,
  options: SeriesOptions,
): Promise<Ended> {
  let lost: unknown;
  try {
    await access.write(place, value);
  } catch (error) {
    if (isProblem(error)) return { outcome: 'refused', bytes: null, problem: error.report() };
    lost = error;
  }
  // A command acts and is gone; a value that nobody can read is as it was written.
  const once = parameter.access === 'write' || parameter.role?.is === 'device command';
  if (once && lost === undefined) return { outcome: 'written', bytes: null, problem: null };
  const unknown = (error: unknown) => ({
    ...{ outcome: 'unknown' as const, bytes: null },
    problem: noAnswer('parameter.unknownSince', device, place, error).report(),
  });
  if (once) return unknown(lost);
  const size = sizeOf(parameter);
  try {
    const answer = await access
      .read(place, size)
      .catch((error) => readAgain(error, access, place, size, { ...options, signal: never }));
    const bytes = hexOf(answer);
    return { outcome: bytes === hexOf(value) ? 'written' : 'changed', bytes, problem: null };
  } catch (error) {
    return unknown(lost ?? error);
  }
}

/** What has been written is read back, whoever cancels meanwhile. */
const never = new AbortController().signal;

/** Reads again after a pause while the device is busy or not heard; throws what came last. */
async function readAgain(
  first: unknown,
  access: ParameterAccess,
  place: Place,
  size: number,
  { signal, pauses = usualPauses }: SeriesOptions,
): Promise<Uint8Array> {
  let last = first;
  for (const pause of pauses) {
    if (!maybeLater(last) || signal.aborted) break;
    await sleep(pause);
    try {
      return await access.read(place, size);
    } catch (next) {
      last = next;
    }
  }
  throw last;
}

const placeOf = (device: Device, { place, name }: Parameter): Place | Problem =>
  place ?? new Problem('parameter.noPlace', { device: device.name, parameter: name });
const notRead = (device: Device, { name }: Parameter) =>
  new Problem('parameter.notRead', { device: device.name, parameter: name });
const noAnswer = (
  code: 'parameter.noAnswer' | 'parameter.unknownSince',
  device: Device,
  place: Place,
  cause: unknown,
): Problem =>
  new Problem(code, { device: device.name, place: placeText(place), reason: reasonOf(cause) }, { cause });
