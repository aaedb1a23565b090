import { describe, expect, test } from 'vitest';
import { bytesOfHex } from '../bytes/hexBytes.js';
import { protocolById } from './list.js';

/**
 * Messages part by part. The bytes are written by hand from CIP Vol. 1 and 2 and from the Modbus specifications, from
 * memory; field/parameters/outside.test.ts compares the same bytes with what tshark calls them.
 */
const explained = (protocol: string, hex: string, answer = false) =>
  protocolById(protocol)!.explain!(bytesOfHex(hex), answer);
const said = (protocol: string, hex: string, answer = false) =>
  Object.fromEntries(explained(protocol, hex, answer).map(({ name, means }) => [name, means]));
const header = (length: string, status = '00 00 00 00') =>
  `6F 00 ${length} 02 00 00 00 ${status} 01 00 00 00 00 00 00 00 00 00 00 00`;
const items = '00 00 00 00 00 00 02 00 00 00 00 00 B2 00';

describe('EtherNet/IP', () => {
  test('a request for an attribute with a wide instance', () => {
    const hex = `${header('1C 00')} ${items} 0C 00 0E 04 20 0F 25 00 2C 01 30 01`;
    expect(said('ethernet-ip', hex)).toMatchObject({
      ...{ command: 'SendRRData (16#6F)', service: 'Get_Attribute_Single (16#0E)', 'path size': '4 words' },
      ...{ class: '15 (16#0F)', instance: '300 (16#012C)', attribute: '1 (16#01)' },
    });
  });
  test('an answer that refuses, with the word behind its status', () => {
    const hex = `${header('18 00')} ${items} 06 00 CB 00 1F 01 11 80`;
    expect(said('ethernet-ip', hex, true)).toMatchObject({
      service: 'answer to a service of the object (16#4B)',
      'general status': expect.stringContaining('16#1F') as string,
      'additional status': '1 word',
      'additional status word': expect.stringContaining('16#8011') as string,
    });
  });
});

describe('Modbus', () => {
  test.each([
    [
      '00 07 00 00 00 06 01 03 0B B8 00 02',
      false,
      { 'first address': '3000, counted from 0', quantity: '2' },
    ],
    ['00 07 00 00 00 07 01 03 04 00 4B 00 00', true, { 'byte count': '4', registers: 'high byte first' }],
    ['00 08 00 00 00 06 01 06 0B B8 00 7D', false, { address: '3000, counted from 0', value: '125' }],
    ['00 09 00 00 00 06 01 05 00 03 FF 00', false, { function: 'write coil', value: 'on' }],
    ['00 0A 00 00 00 0B 01 10 0B B8 00 02 04 00 01 00 02', false, { quantity: '2', 'byte count': '4' }],
  ] as const)('%s', (hex, answer, parts) => expect(said('modbus-tcp', hex, answer)).toMatchObject(parts));
  test('an exception', () => {
    const parts = said('modbus-tcp', '00 07 00 00 00 03 01 83 02', true);
    expect(parts).toMatchObject({ function: 'read holding registers, refused' });
    expect(parts['exception']).toMatch(/^2: /);
  });
});

test.each(['ethernet-ip', 'modbus-tcp'])('%s: every byte once, and cut off anywhere', (protocol) => {
  const whole = {
    'ethernet-ip': `${header('1C 00')} ${items} 0C 00 0E 04 20 0F 25 00 2C 01 30 01`,
    'modbus-tcp': '00 0A 00 00 00 0B 01 10 0B B8 00 02 04 00 01 00 02',
  }[protocol]!;
  const bytes = whole.split(' ');
  for (let end = 0; end <= bytes.length; end += 1) {
    const parts = explained(protocol, bytes.slice(0, end).join(' '));
    expect(parts.map((p) => p.bytes).join(' ')).toBe(bytes.slice(0, end).join(' '));
  }
});
