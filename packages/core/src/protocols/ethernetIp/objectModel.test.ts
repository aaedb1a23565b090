import { describe, expect, test } from 'vitest';
import type { DriveChange, DriveFacts } from '../../devices/driveFacts.js';
import { Parameter } from '../../devices/parameter.js';
import { DescribedParameters } from '../../devices/plain/parameters.js';
import { assemblyObject } from './objects/assembly.js';
import { driveObjects } from './objects/drive.js';
import { identityObject } from './objects/identity.js';
import { messageRouterObject } from './objects/messageRouter.js';
import { ethernetLinkObject, tcpIpInterfaceObject, type TcpIpFacts } from './objects/network.js';
import { parameterObject } from './objects/parameter.js';
import { answerMessage, type Caller, type CipClass } from './objectModel.js';

const hex = (text: string) =>
  Uint8Array.from(text.trim().split(/\s+/).filter(Boolean), (b) => parseInt(b, 16));
const text = (bytes: Uint8Array) => [...bytes].map((b) => b.toString(16).padStart(2, '0')).join(' ');

const resets: number[] = [];
const assembly = hex('01 02 03');
let settings: TcpIpFacts = {
  settings: {
    address: 0xc0a82815,
    mask: 0xffff_ff00,
    gateway: 0,
    nameServer: 0,
    secondNameServer: 0,
    domain: '',
  },
  startUp: 0,
  hostName: 'pump',
  inactivityTimeout: 120,
  conflict: undefined,
};
const parameters = new DescribedParameters([
  Parameter.parse({
    ...{ id: 'p1', name: 'Filter', note: 'Smooths', unit: 'ms', type: 'UINT', bits: 16, initial: '50' },
    place: { way: 'attribute', class: 0x0f, instance: 1, attribute: 1 },
    scale: { factor: '1/10', offset: '0' },
    limits: { minimum: '0.1', maximum: '100' },
    labels: [
      { value: 0, text: 'off' },
      { value: 1, text: 'on' },
    ],
  }),
]);
const changes: DriveChange[] = [];
const facts = {
  runningForward: true,
  runningReverse: false,
  state: 4,
  motor: { ratedCurrent: 4.8 },
} as DriveFacts;
const model: CipClass[] = [
  identityObject(
    () => ({
      ...{ vendor: 65_013, deviceType: 12, productCode: 412, majorRevision: 3, minorRevision: 4 },
      ...{ status: 0x30, serialNumber: 0x12345678, productName: 'PX', state: 3 },
    }),
    (type) => resets.push(type),
  ),
  messageRouterObject(() => model, { maximum: 24, active: () => 2 }),
  assemblyObject(() => [
    { instance: 110, bytes: () => assembly },
    {
      instance: 120,
      bytes: () => assembly,
      set: (data) => {
        assembly.set(data);
        return 0;
      },
    },
  ]),
  tcpIpInterfaceObject(
    () => settings,
    (part) => (settings = { ...settings, ...part }),
  ),
  ethernetLinkObject(() => ({
    mac: hex('02 fa 01 02 03 04'),
    linkUp: true,
    counters: { inBytes: 1, inPackets: 2, outBytes: 3, outPackets: 4, inDiscards: 5 },
  })),
  parameterObject(parameters.all)!,
  ...driveObjects(
    () => facts,
    (part) => changes.push(part),
  ),
];
const caller: Caller = { from: '127.0.0.1', maxAnswer: 500 };
const ask = (message: string, from = caller) => text(answerMessage(model, hex(message), from));

/** Requests and answers after CIP Vol. 1, 2-4, chapter 5 and appendix A, written out by hand (from memory). */
describe('common services', () => {
  test.each([
    ['Get_Attribute_Single, vendor', '0e 03 20 01 24 01 30 01', '8e 00 00 00 f5 fd'],
    ['… with a 16-bit instance', '0e 04 20 01 25 00 01 00 30 01', '8e 00 00 00 f5 fd'],
    ['… with a 32-bit class', '0e 05 22 00 01 00 00 00 24 01 30 02', '8e 00 00 00 0c 00'],
    ['revision, two bytes', '0e 03 20 01 24 01 30 04', '8e 00 00 00 03 04'],
    ['product name, SHORT_STRING', '0e 03 20 01 24 01 30 07', '8e 00 00 00 02 50 58'],
    [
      'Get_Attributes_All of the identity',
      '01 02 20 01 24 01',
      '81 00 00 00 f5 fd 0c 00 9c 01 03 04 30 00 78 56 34 12 02 50 58',
    ],
    ['class attribute 1, revision of the object', '0e 03 20 01 24 00 30 01', '8e 00 00 00 01 00'],
    ['class attribute 2, highest instance', '0e 03 20 04 24 00 30 02', '8e 00 00 00 78 00'],
    [
      'Get_Attribute_List: vendor, one that there is not, product code',
      '03 02 20 01 24 01 03 00 01 00 63 00 03 00',
      '83 00 0a 00 03 00 01 00 00 00 f5 fd 63 00 14 00 03 00 00 00 9c 01',
    ],
    ['an assembly and its size', '0e 03 20 04 24 6e 30 03', '8e 00 00 00 01 02 03'],
    ['…', '0e 03 20 04 24 6e 30 04', '8e 00 00 00 03 00'],
    [
      'Multiple_Service_Packet: two attributes',
      '0a 02 20 02 24 01 02 00 06 00 0e 00 0e 03 20 01 24 01 30 01 0e 03 20 01 24 01 30 02',
      '8a 00 00 00 02 00 06 00 0c 00 8e 00 00 00 f5 fd 8e 00 00 00 0c 00',
    ],
    [
      '… of which one fails',
      '0a 02 20 02 24 01 02 00 06 00 0e 00 0e 03 20 01 24 01 30 01 0e 03 20 01 24 01 30 63',
      '8a 00 1e 00 02 00 06 00 0c 00 8e 00 00 00 f5 fd 8e 00 14 00',
    ],
  ])('%s', (_says, question, answer) => expect(ask(question)).toBe(answer));
});

describe('general status codes', () => {
  test.each([
    ['04: a segment that nobody knows', '0e 02 e7 00 30 01', '8e 00 04 00'],
    ['04: a symbol is no class', '0e 03 91 03 61 62 63 00', '8e 00 04 00'],
    ['05: no such class', '0e 03 20 64 24 01 30 01', '8e 00 05 00'],
    ['05: no such instance', '0e 03 20 01 24 02 30 01', '8e 00 05 00'],
    ['08: no such service', '4b 02 20 01 24 01', 'cb 00 08 00'],
    [
      '08: a packet inside a packet',
      '0a 02 20 02 24 01 01 00 04 00 0a 02 20 02 24 01 00 00',
      '8a 00 1e 00 01 00 04 00 8a 00 08 00',
    ],
    ['09: a value out of range', '10 03 20 0f 24 01 30 01 e9 03', '90 00 09 00'],
    [
      '09: an address that no host can have',
      '10 03 20 f5 24 01 30 05 ff 28 a8 c0 00 ff ff ff 00 00 00 00 00 00 00 00 00 00 00 00 00 00',
      '90 00 09 00',
    ],
    ['09: a start-up method that there is not', '10 03 20 f5 24 01 30 03 03 00 00 00', '90 00 09 00'],
    ['0e: read only', '10 03 20 01 24 01 30 01 00 00', '90 00 0e 00'],
    ['0e: feedback', '10 03 20 04 24 6e 30 03 00 00 00', '90 00 0e 00'],
    ['10: who controls, while it runs', '10 03 20 29 24 01 30 05 01', '90 00 10 00'],
    ['13: cut short', '10 03 20 04 24 78 30 03 00 00', '90 00 13 00'],
    ['13: a path longer than the message', '0e 09 20 01', '8e 00 13 00'],
    ['13: offsets past the end', '0a 02 20 02 24 01 01 00 ff 00', '8a 00 13 00'],
    ['14: no such attribute', '0e 03 20 01 24 01 30 63', '8e 00 14 00'],
    ['15: too long', '10 03 20 04 24 78 30 03 00 00 00 00', '90 00 15 00'],
    ['20: a kind of reset that there is not', '05 02 20 01 24 01 07', '85 00 20 00'],
  ])('%s', (_says, question, answer) => expect(ask(question)).toBe(answer));

  test('11: an answer that the connection cannot carry', () =>
    expect(ask('01 02 20 01 24 01', { ...caller, maxAnswer: 10 })).toBe('81 00 11 00'));
});

describe('objects', () => {
  test('reset is passed on with its type', () => {
    expect(ask('05 02 20 01 24 01')).toBe('85 00 00 00');
    expect(ask('05 02 20 01 24 01 01')).toBe('85 00 00 00');
    expect(resets).toEqual([0, 1]);
  });

  test('an assembly is set as a whole', () => {
    expect(ask('10 03 20 04 24 78 30 03 0a 0b 0c')).toBe('90 00 00 00');
    expect(text(assembly)).toBe('0a 0b 0c');
  });

  test('an address is read and set; then it is stored, not asked for', () => {
    expect(ask('0e 03 20 f5 24 01 30 05')).toBe(
      '8e 00 00 00 15 28 a8 c0 00 ff ff ff 00 00 00 00 00 00 00 00 00 00 00 00 00 00',
    );
    // 192.168.40.99 / 24, gateway .254.
    const body = '63 28 a8 c0 00 ff ff ff fe 28 a8 c0 00 00 00 00 00 00 00 00 00 00';
    expect(ask(`10 03 20 f5 24 01 30 05 ${body}`)).toBe('90 00 00 00');
    expect(settings.settings).toMatchObject({ address: 0xc0a82863, gateway: 0xc0a828fe });
    expect(ask('10 03 20 f5 24 01 30 03 02 00 00 00')).toBe('90 00 00 00');
    expect(settings.startUp).toBe(2);
    expect(ask('10 03 20 f5 24 01 30 0d 0a 00')).toBe('90 00 00 00');
    expect(settings.inactivityTimeout).toBe(10);
  });

  test('link speed, MAC address and counters', () => {
    expect(ask('0e 03 20 f6 24 01 30 01')).toBe('8e 00 00 00 64 00 00 00');
    expect(ask('0e 03 20 f6 24 01 30 03')).toBe('8e 00 00 00 02 fa 01 02 03 04');
    expect(ask('0e 03 20 f6 24 01 30 04')).toMatch(/^8e 00 00 00 01 00 00 00 02 00 00 00/);
  });

  test('a parameter with its full attributes', () => {
    expect(ask('0e 03 20 0f 24 01 30 01')).toBe('8e 00 00 00 f4 01');
    expect(ask('10 03 20 0f 24 01 30 01 2c 01')).toBe('90 00 00 00');
    expect(parameters.all[0]!.raw).toBe(300);
    // Path 20 0f 24 01 30 01; texts, scaling and precision; UINT is C7.
    expect(ask('0e 03 20 0f 24 01 30 03')).toBe('8e 00 00 00 20 0f 24 01 30 01');
    expect(ask('0e 03 20 0f 24 01 30 04')).toBe('8e 00 00 00 46 00');
    expect(ask('0e 03 20 0f 24 01 30 05')).toBe('8e 00 00 00 c7');
    expect(ask('0e 03 20 0f 24 01 30 0b')).toBe('8e 00 00 00 e8 03');
    expect(ask('4b 02 20 0f 24 01 01')).toBe('cb 00 00 00 02 6f 6e');
    expect(ask('4b 02 20 0f 24 01 02')).toBe('cb 00 20 00');
  });

  test('motor, supervisor and drive', () => {
    expect(ask('0e 03 20 28 24 01 30 06')).toBe('8e 00 00 00 30 00');
    expect(ask('0e 03 20 29 24 01 30 06')).toBe('8e 00 00 00 04');
    expect(ask('10 03 20 29 24 01 30 0c 01')).toBe('90 00 00 00');
    expect(changes).toEqual([{ resetFault: true }]);
  });

  test('the Message Router lists the classes', () =>
    expect(ask('0e 03 20 02 24 01 30 01')).toBe(
      '8e 00 00 00 09 00 01 00 02 00 04 00 f5 00 f6 00 0f 00 28 00 29 00 2a 00',
    ));
});
