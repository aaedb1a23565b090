import { Problem, readPlace, type Device, type WriteStep } from '@fadenkreuz/core';
import { Parameter } from '@fadenkreuz/core';
import { describe, expect, test } from 'vitest';
import { climateCell } from '../testBench.js';
import type { ParameterAccess } from '../protocols/parameterAccess.js';
import { readSeries, writeSeries, type SeriesLine, type SeriesOptions } from './series.js';

/** A device that keeps registers, counts what is under way, and fails as it is told. */
class Fake implements ParameterAccess {
  readonly values = new Map<string, number>();
  readonly requests: string[] = [];
  under = 0;
  most = 0;
  /** What the next requests meet, in their order; undefined: they are answered. */
  readonly meets: (Error | 'taken, then lost' | undefined)[] = [];

  private async ask<T>(what: string, work: () => T): Promise<T> {
    this.requests.push(what);
    this.under += 1;
    this.most = Math.max(this.most, this.under);
    await new Promise((resolve) => setTimeout(resolve, 1));
    this.under -= 1;
    const met = this.meets.shift();
    if (met instanceof Error) throw met;
    const answer = work();
    if (met) throw new Error('ECONNRESET');
    return answer;
  }
  read(place: NonNullable<Parameter['place']>, size: number): Promise<Uint8Array> {
    const key = JSON.stringify(place);
    return this.ask(`read ${registerOf(place)}`, () =>
      Uint8Array.from(
        { length: size },
        (_, i) => ((this.values.get(key) ?? 0) >> (8 * (size - 1 - i))) & 0xff,
      ),
    );
  }
  write(place: NonNullable<Parameter['place']>, value: Uint8Array): Promise<void> {
    return this.ask(`write ${registerOf(place)}`, () => {
      const number = value.reduce((sum, byte) => sum * 256 + byte, 0);
      // Rounded to whole hundreds, and no more than 1000.
      this.values.set(JSON.stringify(place), Math.min(1000, number - (number % 100)));
    });
  }
  close = () => Promise.resolve();
}
const registerOf = (place: NonNullable<Parameter['place']>) => (place.way === 'register' ? place.start : '?');

const parameter = (n: number, more: Partial<Parameter> = {}): Parameter =>
  Parameter.parse({
    ...{ id: `p${n}`, code: String(n), name: `name ${n}`, type: 'UINT', bits: 16 },
    place: readPlace(`holding ${n}`),
    ...more,
  });
const [climate] = climateCell().devices;
const deviceOf = (...parameters: Parameter[]): Device => ({
  ...climate!,
  description: { ...climate!.description, parameters },
});
const list = [1, 2, 3, 4].map((n) => parameter(n));
const device = deviceOf(...list);
const busy = () =>
  new Problem('parameter.refused', {
    device: 'd',
    place: 'p',
    refusal: 'busy',
    says: 'Busy.',
    cure: 'Later.',
  });
const range = () =>
  new Problem('parameter.refused', { device: 'd', place: 'p', refusal: 'range', says: 'No.', cure: 'Less.' });
const gone = () => new Error('ECONNRESET');

function begun(more: Partial<SeriesOptions> = {}) {
  const fake = new Fake();
  const lines: SeriesLine[] = [];
  const abort = new AbortController();
  const options: SeriesOptions = {
    ...{ signal: abort.signal, pauses: [1, 1], onLine: (line) => void lines.push(line) },
    ...more,
  };
  const said = () => lines.map((l) => `${l.parameter} ${l.outcome} ${l.bytes ?? ''}`.trim());
  return { fake, abort, options, lines, said };
}
const step = (n: number, bytes: string, why: WriteStep['why'] = 'value'): WriteStep => ({
  ...{ parameter: `p${n}`, bytes, why },
});

describe('a series of reads', () => {
  test('one request after the other, in the order of the list', async () => {
    const { fake, options, said } = begun();
    await readSeries({ device, parameters: list }, fake, options);
    expect(fake.requests).toEqual(['read 1', 'read 2', 'read 3', 'read 4']);
    expect(fake.most).toBe(1);
    expect(said()).toEqual(['p1 read 00 00', 'p2 read 00 00', 'p3 read 00 00', 'p4 read 00 00']);
  });

  test('a busy or silent device is asked again; what it refuses is not', async () => {
    const { fake, options, said, lines } = begun();
    fake.meets.push(busy(), gone(), undefined, range(), undefined);
    await readSeries({ device, parameters: list.slice(0, 3) }, fake, options);
    expect(fake.requests).toEqual(['read 1', 'read 1', 'read 1', 'read 2', 'read 3']);
    expect(said()).toEqual(['p1 read 00 00', 'p2 refused', 'p3 read 00 00']);
    expect(lines[1]!.problem).toMatchObject({ code: 'parameter.refused' });
  });

  test('a device that is lost leaves one value unknown, the others untried', async () => {
    const { fake, options, said } = begun();
    fake.meets.push(undefined, gone(), gone(), gone());
    await readSeries({ device, parameters: list }, fake, options);
    expect(said()).toEqual(['p1 read 00 00', 'p2 unknown', 'p3 not tried', 'p4 not tried']);
  });

  test('cancelled, the request under way ends, and no other begins', async () => {
    const { fake, abort, options, said } = begun({ onLine: undefined as never });
    const lines: string[] = [];
    options.onLine = ({ parameter: id, outcome }) => {
      lines.push(`${id} ${outcome}`);
      abort.abort();
    };
    await readSeries({ device, parameters: list }, fake, options);
    // The first is noted while the second is under way.
    expect(fake.requests).toEqual(['read 1', 'read 2']);
    expect(lines).toEqual(['p1 read', 'p2 read', 'p3 not tried', 'p4 not tried']);
    expect(said()).toEqual([]);
  });

  test('without a place, or where it can only be written, nothing is asked', async () => {
    const { fake, options, lines } = begun();
    const parameters = [parameter(1, { place: null }), parameter(2, { access: 'write' })];
    await readSeries({ device: deviceOf(...parameters), parameters }, fake, options);
    expect(fake.requests).toEqual([]);
    expect(lines.map((l) => l.problem!.code)).toEqual(['parameter.noPlace', 'parameter.notRead']);
  });
});

describe('a series of writes', () => {
  test('each is read back; what the device made of it is said', async () => {
    const { fake, options, said } = begun();
    await writeSeries(
      { device, steps: [step(1, '01 F4'), step(2, '01 F5'), step(3, '07 D0')] },
      fake,
      options,
    );
    expect(fake.requests).toEqual(['write 1', 'read 1', 'write 2', 'read 2', 'write 3', 'read 3']);
    // 500 as it was written, 501 rounded to 500, 2000 clamped to 1000.
    expect(said()).toEqual(['p1 written 01 F4', 'p2 changed 01 F4', 'p3 changed 03 E8']);
  });

  test('refused, the others are written; a write is never repeated', async () => {
    const { fake, options, said } = begun();
    fake.meets.push(range(), busy());
    await writeSeries(
      { device, steps: [step(1, '00 64'), step(2, '00 64'), step(3, '00 64')] },
      fake,
      options,
    );
    expect(fake.requests.filter((r) => r.startsWith('write'))).toEqual(['write 1', 'write 2', 'write 3']);
    expect(said()).toEqual(['p1 refused', 'p2 refused', 'p3 written 00 64']);
  });

  test('no answer: what stands there tells whether it was taken', async () => {
    const { fake, options, said } = begun();
    fake.meets.push('taken, then lost', gone(), undefined, gone(), undefined, undefined, undefined);
    await writeSeries(
      { device, steps: [step(1, '00 64'), step(2, '00 C8'), step(3, '00 64')] },
      fake,
      options,
    );
    expect(said()).toEqual(['p1 written 00 64', 'p2 changed 00 00', 'p3 written 00 64']);
  });

  test('a device that stays away: one value unknown, the rest untried; repeating it completes it', async () => {
    const { fake, options, said, lines } = begun();
    const steps = [step(1, '00 64'), step(2, '00 C8'), step(3, '01 2C')];
    fake.meets.push(undefined, undefined, 'taken, then lost', gone(), gone(), gone());
    await writeSeries({ device, steps }, fake, options);
    expect(said()).toEqual(['p1 written 00 64', 'p2 unknown', 'p3 not tried']);
    lines.length = 0;
    await writeSeries({ device, steps }, fake, options);
    expect(said()).toEqual(['p1 written 00 64', 'p2 written 00 C8', 'p3 written 01 2C']);
  });

  test('without its key nothing behind it is written; cancelled, it is locked again', async () => {
    const steps = [step(1, '00 64', 'key'), step(2, '00 64'), step(1, '00 00', 'lock')];
    const refused = begun();
    refused.fake.meets.push(range());
    await writeSeries({ device, steps }, refused.fake, refused.options);
    expect(refused.said()).toEqual(['p1 refused', 'p2 not tried', 'p1 not tried']);
    const cancelled = begun();
    const { onLine } = cancelled.options;
    cancelled.options.onLine = (line, frames) => {
      onLine(line, frames);
      cancelled.abort.abort();
    };
    await writeSeries({ device, steps }, cancelled.fake, cancelled.options);
    expect(cancelled.said()).toEqual(['p1 written 00 64', 'p2 not tried', 'p1 written 00 00']);
  });

  test('writing is not allowed any more: nothing else is sent', async () => {
    let allowed = true;
    const { fake, options, said } = begun({ mayWrite: () => allowed });
    const { onLine } = options;
    options.onLine = (line, frames) => {
      allowed = false;
      onLine(line, frames);
    };
    await writeSeries({ device, steps: [step(1, '00 64'), step(2, '00 64')] }, fake, options);
    expect(said()).toEqual(['p1 written 00 64', 'p2 not tried']);
  });
});
