import { readPlace, type EthernetIpLink } from '@fadenkreuz/core';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { noTap } from '../../capture/tap.js';
import { climateCell, climateStandIn } from '../../testBench.js';
import { onlyLoopback } from '../../wire/reach.js';
import type { ParameterAccess } from '../parameterAccess.js';
import { ethernetIpParameters } from './parameters.js';

const standIn = climateStandIn();
const [device] = climateCell().devices;
const place = (text: string) => readPlace(text)!;

let access: ParameterAccess;
beforeEach(() => {
  const ends = { device: device!, link: device!.links[0] as EthernetIpLink, localAddress: '127.99.40.1' };
  access = ethernetIpParameters(
    { ...ends, end: { on: 'ip', address: '127.99.40.71' } },
    { tap: noTap, reach: onlyLoopback },
  );
});
afterEach(() => access.close());

/** The Parameter object: CIP Vol. 1, 5-14; attribute 1 is the value. */
test('a value is read, written, and read again', async () => {
  expect([...(await access.read(place('class 15 instance 1'), 2))]).toEqual([0xf4, 0x01]);
  await access.write(place('class 15 instance 1'), Uint8Array.of(0x10, 0x27));
  expect([...(await access.read(place('class 15 instance 1'), 2))]).toEqual([0x10, 0x27]);
});

/** General status: CIP Vol. 1, appendix B-1 (from memory). */
test.each([
  ['an instance that is not there', 'class 15 instance 77', [1, 0], 'absent'],
  ['an attribute that is not there', 'class 15 instance 1 attribute 77', [1, 0], 'absent'],
  ['an attribute that describes it', 'class 15 instance 1 attribute 4', [1, 0], 'read-only'],
  ['above its maximum of 10,000', 'class 15 instance 1', [0x11, 0x27], 'range'],
  ['two bytes too many', 'class 15 instance 1', [1, 0, 0, 0], 'size'],
  ['one byte too few', 'class 15 instance 1', [1], 'size'],
  ['a calibration that its key word keeps closed', 'class 15 instance 3', [1, 0], 'locked'],
])('%s is refused: %s', async (_says, at, bytes, refusal) => {
  await expect(access.write(place(at), Uint8Array.from(bytes))).rejects.toMatchObject({
    code: 'parameter.refused',
    facts: { refusal, device: device!.name },
  });
});

test('a place of another protocol has no way', async () => {
  await expect(access.read(place('holding 3'), 2)).rejects.toMatchObject({ code: 'parameter.noWay' });
});

test('requests keep their order, one at a time, and open anew after the device has dropped them', async () => {
  const values = [100, 200, 300, 400];
  const seen: number[] = [];
  await Promise.all(
    values.flatMap((value) => [
      access.write(place('class 15 instance 1'), Uint8Array.of(value & 0xff, value >> 8)),
      access.read(place('class 15 instance 1'), 2).then(([low, high]) => seen.push(low! | (high! << 8))),
    ]),
  );
  expect(seen).toEqual(values);
  await standIn().close();
  await expect(access.read(place('class 15 instance 1'), 2)).rejects.toThrow();
  await standIn().open();
  expect((await access.read(place('class 15 instance 1'), 2)).length).toBe(2);
});
