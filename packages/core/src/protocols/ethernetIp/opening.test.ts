import { describe, expect, test } from 'vitest';
import { class1, class3, type ForwardOpen, type NetworkParameters } from './connectionManager.js';
import { judgeOpening, type StandingConnection, type TargetFacts } from './opening.js';

const hex = (text: string) => Uint8Array.from(text.trim().split(/\s+/), (b) => parseInt(b, 16));

const target: TargetFacts = {
  identity: { vendor: 65_013, deviceType: 12, productCode: 412, majorRevision: 3, minorRevision: 4 },
  points: [
    { instance: 120, use: 'command', size: 8 },
    { instance: 110, use: 'feedback', size: 12 },
    { instance: 150, use: 'configuration', size: 4 },
    { instance: 198, use: 'input-only', size: 0 },
    { instance: 199, use: 'listen-only', size: 0 },
  ],
  commandFormat: 'run-idle',
  feedbackFormat: 'modeless',
  shortestRpi: 1000,
  rpiStep: 1000,
  maxConnections: 4,
  connections: [],
};
const direction = (size: number, type: NetworkParameters['type'] = 'point-to-point'): NetworkParameters => ({
  type,
  priority: 2,
  variable: false,
  redundantOwner: false,
  size,
});
/** Key (vendor 65013, type 12, code 412, revision 3.4), class 4, instance 150, points 120 and 110; written by hand. */
const path = '34 04 f5 fd 0c 00 9c 01 03 04 20 04 24 96 2c 78 2c 6e';
const asked = (part: Partial<ForwardOpen> = {}): ForwardOpen => ({
  priorityTick: 3,
  timeoutTicks: 250,
  toTargetId: 0,
  toOriginatorId: 5,
  connectionSerial: 1,
  originatorVendor: 2,
  originatorSerial: 3,
  timeoutMultiplier: 0,
  reserved: new Uint8Array(3),
  toTargetRpi: 10_000,
  // Sequence count 2, run/idle word 4, 8 bytes; and 2 and 12 bytes.
  toTarget: direction(14),
  toOriginatorRpi: 10_000,
  toOriginator: direction(14),
  transport: class1('cyclic'),
  path: hex(path),
  ...part,
});
const standing = (kind: StandingConnection['kind'], serial = 9): StandingConnection => ({
  kind,
  request: asked({ connectionSerial: serial }),
  feedback: target.points[1],
});
const verdict = (part: Partial<ForwardOpen> = {}, facts: Partial<TargetFacts> = {}) =>
  judgeOpening({ ...target, ...facts }, asked(part), false);
const keyed = (key: string) => hex(`34 04 ${key} 20 04 24 96 2c 78 2c 6e`);

/** Extended status after CIP Vol. 1, table 3-5.33 (from memory). */
describe('what is refused, and with which extended status', () => {
  test.each<[string, number[], Partial<ForwardOpen>, Partial<TargetFacts>?]>([
    ['the same connection again', [0x0100], {}, { connections: [standing('exclusive-owner', 1)] }],
    ['transport class 2', [0x0103], { transport: 0x02 }],
    ['class 1, triggered by the application', [0x0103], { transport: 0x21 }],
    ['another owner', [0x0106], {}, { connections: [standing('exclusive-owner')] }],
    ['a foreign owner', [0x0106], {}, { ownedByOther: true }],
    ['an interval of half a millisecond', [0x0111], { toOriginatorRpi: 500 }],
    ['an interval of two minutes', [0x0111], { toTargetRpi: 120_000_000 }],
    ['no connection left', [0x0113], {}, { connections: [2, 3, 4, 5].map((n) => standing('explicit', n)) }],
    ['another vendor', [0x0114], { path: keyed('f6 fd 0c 00 9c 01 03 04') }],
    ['another product code', [0x0114], { path: keyed('f5 fd 0c 00 9d 01 03 04') }],
    ['another device type', [0x0115], { path: keyed('f5 fd 0d 00 9c 01 03 04') }],
    ['another major revision', [0x0116], { path: keyed('f5 fd 0c 00 9c 01 04 04') }],
    ['another minor revision', [0x0116], { path: keyed('f5 fd 0c 00 9c 01 03 05') }],
    ['compatible, but older than asked for', [0x0116], { path: keyed('f5 fd 0c 00 9c 01 83 05') }],
    ['a class that is no assembly', [0x0117], { path: hex('20 05 24 96 2c 78 2c 6e') }],
    ['nobody to listen to', [0x0119], { path: hex('20 04 24 96 2c c7 2c 6e'), toTarget: direction(2) }],
    ['multicast towards the device', [0x0123], { toTarget: direction(14, 'multicast') }],
    ['a null connection', [0x0124], { toOriginator: direction(0, 'null') }],
    ['time-out multiplier code 8', [0x0133], { timeoutMultiplier: 8 }],
    ['the instance before its class', [0x0315], { path: hex('24 96 20 04 2c 78 2c 6e') }],
    ['configuration of six bytes', [0x0126, 4], { path: hex(`${path} 80 03 01 02 03 04 05 06`) }],
    ['commands of four bytes', [0x0127, 8], { toTarget: direction(10) }],
    ['bare commands of the right size', [0x0127, 8], { toTarget: direction(10) }],
    ['feedback of 24 bytes', [0x0128, 12], { toOriginator: direction(26) }],
    ['a configuration instance that is none', [0x0129], { path: hex('20 04 24 97 2c 78 2c 6e') }],
    ['a command instance that is none', [0x012a], { path: hex('20 04 24 96 2c 79 2c 6e') }],
    ['a feedback instance that is none', [0x012b], { path: hex('20 04 24 96 2c 78 2c 6f') }],
    ['both points the wrong way round', [0x012a], { path: hex('20 04 24 96 2c 6e 2c 78') }],
    ['a segment that nobody knows', [0x0315], { path: hex('20 04 e7 01') }],
    ['a way through port 2', [0x0311], { path: hex(`02 00 ${path}`) }],
    ['a way to place 3 behind port 1', [0x0312], { path: hex(`01 03 ${path}`) }],
    ['a way from within the device', [0x0315], { path: hex('20 04 01 00 24 96 2c 78 2c 6e') }],
    [
      'explicit messages of 4 bytes',
      [0x0109],
      { transport: class3, path: hex('20 02 24 01'), toTarget: direction(4) },
    ],
    ['explicit messages to an assembly', [0x0117], { transport: class3 }],
  ])('%s', (_says, refusal, part, facts) => expect(verdict(part, facts)).toEqual({ refusal }));

  test('a small request for more than 511 bytes', () => {
    const wide = {
      ...target,
      points: target.points.map((p) => (p.instance === 110 ? { ...p, size: 600 } : p)),
    };
    const request = asked({ toOriginator: direction(602) });
    expect(judgeOpening(wide, request, false)).toEqual({ refusal: [0x0109] });
    expect(judgeOpening(wide, request, true)).toHaveProperty('opening');
  });
});

describe('what is accepted, and as what', () => {
  test.each<[string, Partial<ForwardOpen>, object, Partial<TargetFacts>?]>([
    ['exclusive owner', {}, { kind: 'exclusive-owner', commandFormat: 'run-idle', trigger: 'cyclic' }],
    ['the way to its own place', { path: hex(`01 00 ${path}`) }, { kind: 'exclusive-owner' }],
    ['a key of zeros means any', { path: keyed('00 00 00 00 00 00 00 00') }, { kind: 'exclusive-owner' }],
    [
      'compatible, and newer than asked for',
      { path: keyed('f5 fd 0c 00 9c 01 83 02') },
      { kind: 'exclusive-owner' },
    ],
    [
      'input only beside an owner',
      { path: hex('20 04 24 96 2c c6 2c 6e'), toTarget: direction(2) },
      { kind: 'input-only', commandFormat: 'heartbeat', command: undefined },
      { connections: [standing('exclusive-owner')] },
    ],
    [
      'listen only beside an owner',
      {
        path: hex('20 04 24 96 2c c7 2c 6e'),
        toTarget: direction(2),
        toOriginator: direction(14, 'multicast'),
      },
      { kind: 'listen-only', multicast: true },
      { connections: [standing('exclusive-owner')] },
    ],
    [
      'explicit',
      { transport: class3, path: hex('20 02 24 01') },
      { kind: 'explicit', trigger: 'application' },
    ],
    [
      'change of state, a quarter of the interval apart',
      { transport: class1('change-of-state') },
      { inhibitUs: 2500 },
    ],
    ['… or as the path says: 43 05', { path: hex(`43 05 ${path}`) }, { inhibitUs: 5000 }],
    ['configuration data', { path: hex(`${path} 80 02 01 02 03 04`) }, { configuration: hex('01 02 03 04') }],
    [
      'intervals in whole steps',
      { toOriginatorRpi: 12_345, toTargetRpi: 7001 },
      { toOriginatorApi: 13_000, toTargetApi: 8000 },
    ],
    [
      'a variable size that is large enough',
      { toOriginator: { ...direction(40), variable: true } },
      { multicast: false },
    ],
  ])('%s', (_says, part, opening, facts) => expect(verdict(part, facts)).toMatchObject({ opening }));
});
