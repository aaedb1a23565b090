import { describe, expect, test } from 'vitest';
import { decode, encode } from '../bytes/struct.js';
import { addressNumber } from '../bytes/ipv4.js';
import { askMessage, hearAnswer, type Asking, type Given } from './ask.js';
import { giveAddress, type Assignment } from './assign.js';
import {
  bootpMessage,
  dhcpType,
  dhcpTypes,
  macText,
  optionCodes,
  textOption,
  type BootpMessage,
} from './message.js';

const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex');
const mac = Uint8Array.from([2, 0xfa, 0x12, 0x34, 0x56, 0x78]);
const asking = (part: Partial<Asking> = {}): Asking => ({
  method: 'dhcp',
  mac,
  transaction: 0x1234abcd,
  vendorClass: '',
  offer: undefined,
  ...part,
});
const assigned: Assignment = {
  mac: '02-FA-12-34-56-78',
  address: '192.168.40.61',
  mask: '255.255.255.0',
  gateway: '192.168.40.254',
};
const server = '192.168.40.1';
/**
 * Fixed part up to the hardware address, and the options up to their end, as scapy 2.5 builds them:
 * BOOTP(…)/DHCP(options=[…]).
 */
const head = '010106001234abcd000080000000000000000000000000000000000002fa12345678';
const scapyDiscover = '63825363350101ff';
const scapyRequest = '638253633501033204c0a8283d3604c0a82801ff';
const scapyAck = {
  head: '020106001234abcd0000800000000000c0a8283dc0a82801',
  options: '638253633501053604c0a828013304ffffffff0104ffffff000304c0a828feff',
};

describe('bytes, against scapy', () => {
  test('a discovery', () => {
    const bytes = encode(bootpMessage, askMessage(asking()));
    expect(hex(bytes.subarray(0, 34))).toBe(head);
    expect(hex(bytes.subarray(236))).toMatch(new RegExp(`^${scapyDiscover}(00)*$`));
    // RFC 951, 3: 300 bytes, with a vendor area of 64.
    expect(bytes.length).toBe(300);
  });

  test('the request for what was offered', () => {
    const bytes = encode(bootpMessage, askMessage(asking({ offer: { server, address: assigned.address } })));
    expect(hex(bytes.subarray(236))).toMatch(new RegExp(`^${scapyRequest}(00)*$`));
  });

  test('a device that says what it is, by its vendor class', () => {
    const bytes = encode(bootpMessage, askMessage(asking({ vendorClass: 'Murmel PX8' })));
    // scapy: DHCP(options=[('message-type', 'discover'), ('vendor_class_id', 'Murmel PX8'), 'end'])
    expect(hex(bytes.subarray(236))).toMatch(/^638253633501013c0a4d75726d656c20505838ff(00)*$/);
    const read = decode(bootpMessage, bytes, 'question');
    expect(textOption(read, optionCodes.vendorClass)).toBe('Murmel PX8');
    expect(textOption(read, optionCodes.hostName)).toBe('');
  });

  test('an acknowledgement', () => {
    const request = askMessage(asking({ offer: { server, address: assigned.address } }));
    const bytes = encode(bootpMessage, giveAddress(request, [assigned], server)!);
    expect(hex(bytes.subarray(0, 24))).toBe(scapyAck.head);
    expect(hex(bytes.subarray(236))).toMatch(new RegExp(`^${scapyAck.options}(00)*$`));
  });

  test('what scapy built is read the same way', () => {
    const body = `${scapyAck.head}${'00'.repeat(4)}02fa12345678${'00'.repeat(10 + 64 + 128)}${scapyAck.options}`;
    const answer = decode(bootpMessage, Buffer.from(body, 'hex'), 'answer');
    const { given } = hearAnswer(asking({ offer: { server, address: assigned.address } }), answer);
    expect(given).toEqual({ address: '192.168.40.61', mask: '255.255.255.0', gateway: '192.168.40.254' });
  });
});

/** Both sides in turn, over their bytes, until the address is given or nobody answers. */
function converse(from: Asking, assignments: readonly Assignment[]): Given | undefined {
  let state = from;
  for (let turn = 0; turn < 4; turn += 1) {
    const asked = decode(bootpMessage, encode(bootpMessage, askMessage(state)), 'question');
    const answer = giveAddress(asked, assignments, server);
    if (!answer) return undefined;
    const heard = hearAnswer(state, decode(bootpMessage, encode(bootpMessage, answer), 'answer'));
    if (heard.given) return heard.given;
    state = heard.asking;
  }
  return undefined;
}

test.each(['bootp', 'dhcp'] as const)('%s: a chosen device gets its address, others get none', (method) => {
  const { mac: _mac, ...wanted } = assigned;
  expect(converse(asking({ method }), [assigned])).toEqual(wanted);
  expect(converse(asking({ method }), [{ ...assigned, mac: '02-FA-12-34-56-79' }])).toBeUndefined();
  expect(converse(asking({ method }), [])).toBeUndefined();
});

describe('the server, RFC 2131, 4.3.2', () => {
  const request = (part: Partial<BootpMessage> = {}, offer = { server, address: assigned.address }) => ({
    ...askMessage(asking({ offer })),
    ...part,
  });
  test.each<[string, BootpMessage, number | undefined]>([
    ['what it offered', request(), dhcpTypes.ack],
    ['another address', request({}, { server, address: '192.168.40.99' }), dhcpTypes.nak],
    [
      'the offer of another server',
      request({}, { server: '192.168.40.2', address: assigned.address }),
      undefined,
    ],
    [
      'renewing its own',
      request({
        clientAddress: addressNumber(assigned.address),
        options: [{ code: 53, data: Uint8Array.of(3) }],
      }),
      dhcpTypes.ack,
    ],
    ['a release', request({ options: [{ code: 53, data: Uint8Array.of(7) }] }), undefined],
    ['an answer that strayed', request({ op: 2 }), undefined],
  ])('%s', (_says, asked, type) => {
    const answer = giveAddress(asked, [assigned], server);
    expect(answer && dhcpType(answer)).toBe(type);
  });
});

test('a device takes answers to itself only, and starts over when refused', () => {
  const state = asking({ offer: { server, address: assigned.address } });
  const ack = giveAddress(askMessage(state), [assigned], server)!;
  expect(hearAnswer(state, { ...ack, transaction: 1 }).given).toBeUndefined();
  expect(hearAnswer({ ...state, mac: mac.map((b) => b ^ 1) }, ack).given).toBeUndefined();
  const refusal = giveAddress(
    askMessage({ ...state, offer: { server, address: '192.168.40.9' } }),
    [assigned],
    server,
  )!;
  expect(hearAnswer(state, refusal).asking.offer).toBeUndefined();
});

test('a message that is cut off is refused, and one without the cookie has no options', () => {
  const bytes = encode(bootpMessage, askMessage(asking()));
  expect(() => decode(bootpMessage, bytes.subarray(0, 200), 'question')).toThrow(/question needs/);
  expect(decode(bootpMessage, bytes.subarray(0, 236), 'question').options).toEqual([]);
});

test('a MAC address as on a nameplate', () => expect(macText(mac)).toBe('02-FA-12-34-56-78'));
