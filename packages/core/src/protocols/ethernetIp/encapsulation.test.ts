import { describe, expect, test } from 'vitest';
import { decode, encode } from '../../bytes/struct.js';
import * as enip from './encapsulation.js';

const hex = (text: string) => Uint8Array.from(text.trim().split(/\s+/), (b) => parseInt(b, 16));
const text = (bytes: Uint8Array) => [...bytes].map((b) => b.toString(16).padStart(2, '0')).join(' ');

/**
 * RegisterSession, CIP Vol. 2, tables 2-4.5 and 2-4.6 (from memory): command 16#65, four bytes, version 1, no options.
 */
const registerRequest = '65 00 04 00 00 00 00 00 00 00 00 00 01 02 03 04 05 06 07 08 00 00 00 00 01 00 00 00';

/**
 * ListIdentity answer after the layout of CIP Vol. 2, table 2-4.4 (from memory), written out by hand: one item 16#0C of
 * 38 bytes; socket address in network order; the name as SHORT_STRING.
 */
const identityAnswer = `
  01 00  0c 00 27 00  01 00
  00 02 af 12 7f a8 28 47 00 00 00 00 00 00 00 00
  f5 fd  0c 00  9c 01  03 04  30 00  78 56 34 12
  05 50 58 2d 38 20  03`;

describe('encapsulation', () => {
  test('RegisterSession is these 28 bytes', () => {
    const data = encode(enip.registerSession, { version: 1, options: 0 });
    const frame = {
      ...enip.request(enip.commands.registerSession, 0, data),
      contextLow: 0x04030201,
      contextHigh: 0x08070605,
    };
    expect(text(enip.encodeFrame(frame))).toBe(registerRequest);
    expect(enip.takeFrame(hex(registerRequest)).frame).toEqual(frame);
  });

  test('the identity item reads and writes as the standard lays it out', () => {
    const [item] = enip.readItems(hex(identityAnswer));
    expect(item?.type).toBe(0x0c);
    const identity = decode(enip.identityItem, item!.data, 'identity');
    expect(identity).toMatchObject({
      version: 1,
      socket: { family: 2, port: 44_818, address: enip.addressNumber('127.168.40.71') },
      vendor: 65_013,
      deviceType: 12,
      productCode: 412,
      majorRevision: 3,
      minorRevision: 4,
      status: 0x30,
      serialNumber: 0x12345678,
      productName: 'PX-8 ',
      state: 3,
    });
    expect(text(encode(enip.items, [{ type: 0x0c, data: encode(enip.identityItem, identity) }]))).toBe(
      text(hex(identityAnswer)),
    );
  });

  test('a frame that is sent again is what a new one would be, and the first one stays', () => {
    const made = (session: number, contextLow: number) =>
      enip.encodeMessageFrame(
        enip.messageFrame({ command: enip.commands.sendRRData, session, contextLow, contextHigh: 0 }),
        (to) => to.put(Uint8Array.of(0x0e, 3, 0x20, 1, 0x24, 1, 0x30, 7)),
      );
    const first = made(0, 0);
    const again = enip.frameAgain(first, 0xfedcba98, 0x89abcdef, (count) => new Uint8Array(count));
    expect(text(again)).toBe(text(made(0xfedcba98, 0x89abcdef)));
    expect(text(first)).toBe(text(made(0, 0)));
  });

  test('a stream may bring frames in any pieces', () => {
    const two = hex(`${registerRequest} ${registerRequest}`);
    for (let cut = 0; cut <= two.length; cut += 1) {
      let held: Uint8Array = two.subarray(0, cut);
      let frames = 0;
      for (const more of [new Uint8Array(), two.subarray(cut)]) {
        held = Uint8Array.from([...held, ...more]);
        for (let taken = enip.takeFrame(held); taken.frame; taken = enip.takeFrame(held)) {
          frames += 1;
          held = taken.rest;
        }
      }
      expect([frames, held.length]).toEqual([2, 0]);
    }
  });

  test('an item that claims more bytes than there are is refused', () => {
    expect(() => enip.readItems(hex('01 00 b2 00 ff ff 00'))).toThrow(/needs/);
  });

  test('a count of items that no message has is bounded', () => {
    expect(() => enip.readItems(hex('ff ff 00 00 00 00'))).toThrow(/needs/);
  });
});
