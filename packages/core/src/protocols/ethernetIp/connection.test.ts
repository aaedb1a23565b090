import { describe, expect, test } from 'vitest';
import { decode, encode } from '../../bytes/struct.js';
import {
  forwardClose,
  forwardOpen,
  largeForwardOpen,
  multiplierCode,
  multiplierOf,
} from './connectionManager.js';
import { connectionIdOf, isNewer, OutgoingPacket, readPacket } from './ioPacket.js';
import { decodeRequest, decodeResponse, encodeRequest, encodeResponse } from './messageRouter.js';
import { logical } from './path.js';
import { statusText } from './status.js';

const hex = (text: string) => Uint8Array.from(text.trim().split(/\s+/), (b) => parseInt(b, 16));

/**
 * Forward_Open after the layout of CIP Vol. 1, table 3-5.16 (from memory), written out by hand. Parameters 16#480E:
 * bits 14–13 = 2 point-to-point, bits 11–10 = 2 scheduled, bit 9 = 0 fixed, size 14.
 */
const openBytes = hex(`
  03 fa  00 00 00 00  05 00 a1 b2  34 12  e8 fd  78 56 34 12  00  00 00 00
  20 4e 00 00  0e 48  20 4e 00 00  0e 48  01
  04 20 04 24 96 2c 78 2c 6e`);
const direction = {
  type: 'point-to-point' as const,
  priority: 2,
  variable: false,
  redundantOwner: false,
  size: 14,
};
const openRequest = {
  priorityTick: 3,
  timeoutTicks: 250,
  toTargetId: 0,
  toOriginatorId: 0xb2a1_0005,
  connectionSerial: 0x1234,
  originatorVendor: 65_000,
  originatorSerial: 0x12345678,
  timeoutMultiplier: 0,
  reserved: new Uint8Array(3),
  toTargetRpi: 20_000,
  toTarget: direction,
  toOriginatorRpi: 20_000,
  toOriginator: direction,
  transport: 1,
  path: hex('20 04 24 96 2c 78 2c 6e'),
};

describe('Connection Manager', () => {
  test('Forward_Open reads and writes as the standard lays it out', () => {
    expect(encode(forwardOpen, openRequest)).toEqual(openBytes);
    expect(decode(forwardOpen, openBytes, 'Forward_Open')).toEqual(openRequest);
  });

  test('Large_Forward_Open has 32-bit parameters: flags in the upper half, 16 bits of size', () => {
    const wide = encode(largeForwardOpen, { ...openRequest, toTarget: { ...direction, size: 1406 } });
    expect(wide.length).toBe(openBytes.length + 4);
    expect(wide.subarray(26, 30)).toEqual(hex('7e 05 00 48'));
    expect(decode(largeForwardOpen, wide, 'Large_Forward_Open').toTarget.size).toBe(1406);
  });

  test('every flag of the parameters survives', () => {
    for (const type of ['null', 'multicast', 'point-to-point'] as const)
      for (const flag of [false, true]) {
        const toTarget = { type, priority: 3, variable: flag, redundantOwner: !flag, size: 511 };
        expect(decode(forwardOpen, encode(forwardOpen, { ...openRequest, toTarget }), 'x').toTarget).toEqual(
          toTarget,
        );
      }
  });

  test('Forward_Close has a reserved byte before its path (CIP Vol. 1, table 3-5.21, from memory)', () => {
    const bytes = encode(forwardClose, { ...openRequest });
    expect(bytes).toEqual(hex('03 fa 34 12 e8 fd 78 56 34 12 04 00 20 04 24 96 2c 78 2c 6e'));
  });

  test.each([
    [4, 0],
    [8, 1],
    [512, 7],
  ])('timeout multiplier %i is code %i (CIP Vol. 1, table 3-5.12, from memory)', (multiplier, code) => {
    expect(multiplierCode(multiplier)).toBe(code);
    expect(multiplierOf(code)).toBe(multiplier);
  });

  test('a request that is cut off is refused', () => {
    for (let length = 0; length < openBytes.length; length += 1)
      expect(() => decode(forwardOpen, openBytes.subarray(0, length), 'Forward_Open')).toThrow(/needs/);
  });
});

describe('Message Router', () => {
  test('Get_Attribute_Single of the vendor: 0E 03 20 01 24 01 30 01', () => {
    const request = {
      service: 0x0e,
      path: [logical('class', 1), logical('instance', 1), logical('attribute', 1)],
      data: new Uint8Array(),
    };
    expect(encodeRequest(request)).toEqual(hex('0e 03 20 01 24 01 30 01'));
    expect(decodeRequest(hex('0e 03 20 01 24 01 30 01'))).toEqual(request);
  });

  test('a refusal carries general status, count of words and extended status', () => {
    const response = { service: 0x54, status: 1, extended: [0x0127, 8], data: new Uint8Array() };
    expect(encodeResponse(response)).toEqual(hex('d4 00 01 02 27 01 08 00'));
    expect(decodeResponse(hex('d4 00 01 02 27 01 08 00'))).toEqual(response);
  });

  test('status pairs become sentences; unknown ones say so', () => {
    expect(statusText(1, [0x0106]).means).toMatch(/owns/);
    expect(statusText(5).means).toMatch(/class or instance/);
    expect(statusText(0x99).cure).toMatch(/manual/);
    expect(statusText(5, [0x0106]).means).toMatch(/class or instance/);
  });
});

describe('cyclic packets', () => {
  /** CIP Vol. 2, 2-6.2: sequenced address item, connected data item; 32-bit header with bit 0 = run (from memory). */
  const packetBytes = hex('02 00 02 80 08 00 05 00 a1 b2 07 00 00 00 b1 00 08 00 07 00 01 00 00 00 aa bb');

  test('a command packet with run/idle header, written in place', () => {
    const packet = new OutgoingPacket(0xb2a1_0005, 'run-idle', 2);
    for (let i = 0; i < 6; i += 1) packet.next(hex('00 00'), false);
    expect(packet.next(hex('aa bb'), true)).toEqual(packetBytes);
    expect(connectionIdOf(packetBytes)).toBe(0xb2a1_0005);
    expect(readPacket(packetBytes, 'run-idle', 2)).toEqual({
      packetSequence: 7,
      dataSequence: 7,
      run: true,
      dataFrom: 24,
    });
  });

  test('the modeless format has no header, a heartbeat no data', () => {
    expect(readPacket(packetBytes, 'modeless', 6)).toMatchObject({ run: undefined, dataFrom: 20 });
    expect([...new OutgoingPacket(1, 'heartbeat', 0).next(hex(''), true)].slice(14)).toEqual([
      ...hex('b1 00 02 00 01 00'),
    ]);
  });

  test('a packet of another size, or cut off, is none of this connection', () => {
    expect(readPacket(packetBytes, 'run-idle', 3)).toBeUndefined();
    expect(readPacket(packetBytes.subarray(0, 25), 'run-idle', 2)).toBeUndefined();
    expect(readPacket(hex('02 00 02 80'), 'run-idle', 2)).toBeUndefined();
  });

  test('data that are not new leave the count of data alone', () => {
    const packet = new OutgoingPacket(1, 'modeless', 1);
    packet.next(hex('01'), true);
    expect([...packet.next(hex('01'), true, false)].slice(10)).toEqual([
      ...hex('02 00 00 00 b1 00 03 00 01 00 01'),
    ]);
  });

  test('other datagrams have no connection', () => {
    expect(connectionIdOf(hex('00 01 02'))).toBeUndefined();
    expect(connectionIdOf(new Uint8Array(40))).toBeUndefined();
  });

  test.each([
    [1, 0, true],
    [0, 0xffff_ffff, true],
    [5, 5, false],
    [4, 5, false],
    [0xffff_fff0, 3, false],
  ])('is %i newer than %i: %s', (next, last, verdict) => expect(isNewer(next, last)).toBe(verdict));
});
