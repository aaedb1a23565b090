import { describe, expect, test } from 'vitest';
import { testImage } from '../cell/testCell.js';
import { Field } from '../layout/field.js';
import { actingStops } from './doubtful.js';
import { finding } from '../messages/finding.js';
import { causesOf } from './causes.js';
import type { Symptoms } from '../protocols/symptoms.js';

/** A link that stands and lacks nothing. */
const sound: Symptoms = {
  protocol: 'ethernet-ip',
  polled: false,
  state: 'open',
  reason: null,
  expectedMs: 20,
  ownLatenessMs: 1,
  timeoutMs: 80,
  together: { open: 11, heldUp: 0 },
  ageMs: 5,
  freshMs: 5,
  lately: { lost: 0, late: 0, doubled: 0, overtaken: 0, timeouts: 0, interval: 20 },
  probe: { answerMs: 1, identityStatus: 0x0061, refusal: null },
  indicators: [{ name: 'module', colour: 'green', pattern: 'steady', means: 'in order' }],
  restartedMs: null,
};
const titles = (part: Partial<Symptoms>) => causesOf({ ...sound, ...part }).map((c) => c.title);
const restarted = 'The device has lost its power for a moment, or was started anew';

test('nothing is wrong with a sound link', () => expect(titles({})).toEqual([]));

test.each<[string, Partial<Symptoms>, string[]]>([
  ['a restart a moment ago comes first', { restartedMs: 2000 }, [restarted]],
  [
    'packets that are missing now come before a restart half a minute ago, which is still told',
    { restartedMs: 30_000, lately: { ...sound.lately, lost: 0.05 } },
    ['Packets get lost on the way', restarted],
  ],
  [
    'so do packets that are held up',
    { restartedMs: 30_000, lately: { ...sound.lately, interval: 60 } },
    ['Packets are held up on the way', restarted],
  ],
  ['after a minute it is forgotten', { restartedMs: 61_000 }, []],
])('%s', (_says, part, expected) => expect(titles(part)).toEqual(expected));

test('missing packets that others overtook are no loss', () =>
  expect(titles({ lately: { ...sound.lately, lost: 0.1, late: 0.1 } })).toEqual([
    'Packets overtake each other',
  ]));

test('packets that come well after later ones are held up; they overtake each other only for that reason', () =>
  expect(titles({ lately: { ...sound.lately, lost: 0.3, late: 0.3, overtaken: 0.1 } })).toEqual([
    'Packets are held up on the way',
    'Packets overtake each other',
  ]));

test.each<[string, Partial<Symptoms>, string]>([
  ['a connection over which nothing is answered is a slow device', {}, 'The device answers slowly'],
  [
    'unless its cable is out: the connection of a stand-in comes about all the same',
    {
      indicators: [
        ...sound.indicators,
        { name: 'link', colour: 'off', pattern: 'steady', means: 'no cable' },
      ],
    },
    'The cable is out, or a switch on the way is off',
  ],
])('%s', (_says, part, expected) => {
  const facts = { device: 'hub', address: '10.0.0.1', reason: 'no answer within 400 ms', connected: true };
  const reason = finding('link.unreachable', 'error', { device: 'g1' }, facts);
  const lost = { protocol: 'modbus-tcp', state: 'unreachable', reason, probe: null } as const;
  expect(titles({ ...lost, ...part })[0]).toBe(expected);
});

test('a device that answers more slowly than it is asked is slow; what is missing follows from it', () => {
  const missing = { ...sound, lately: { ...sound.lately, lost: 0.58 } };
  const slow = { answerMs: 874, identityStatus: null, refusal: null };
  expect(titles({ ...missing, polled: true, probe: slow })).toEqual([
    'The device answers slowly',
    'It is asked more often than it answers',
  ]);
  // Where packets come by themselves, slow answers do not explain it.
  expect(titles({ ...missing, probe: slow })[0]).toBe('Packets get lost on the way');
});

test('turns of a polled link that are left out are no lost packets: TCP loses none', () => {
  const leftOut = { polled: true, expectedMs: 100, lately: { ...sound.lately, lost: 0.1, interval: 100 } };
  expect(titles(leftOut)).toEqual(['It is asked more often than it answers']);
  expect(titles({ ...leftOut, ownLatenessMs: 40 })).toEqual(['This computer is too loaded to keep the time']);
  // A little late is no matter where nothing is left out and nothing takes longer.
  expect(titles({ ...leftOut, lately: { ...sound.lately, interval: 100 }, ownLatenessMs: 40 })).toEqual([]);
});

test('a polled link is held up by this computer twice: when it asks, and when it reads', () => {
  const asked = { polled: true, expectedMs: 100, ownLatenessMs: 73 };
  const taking = (interval: number) => ({ lately: { ...sound.lately, interval } });
  expect(titles({ ...asked, ...taking(300) })).toEqual(['This computer is too loaded to keep the time']);
  // Longer than that explains, and longer although this computer is in time: the network's.
  expect(titles({ ...asked, ...taking(500) })).toEqual([
    'Packets are held up on the way',
    'This computer is too loaded to keep the time',
  ]);
  expect(titles({ ...asked, ...taking(180), ownLatenessMs: 3 })).toEqual(['Packets are held up on the way']);
});

describe('what several things would explain', () => {
  const held = { lately: { ...sound.lately, interval: 60 } };

  test('seven of eleven links held up at once: this computer first', () => {
    expect(titles({ ...held, together: { open: 11, heldUp: 7 } })[0]).toBe(
      'This computer is too loaded to keep the time',
    );
    // One alone, or two of three, say nothing of what they share.
    expect(titles({ ...held, together: { open: 11, heldUp: 1 } })).toEqual([
      'Packets are held up on the way',
    ]);
    expect(titles({ ...held, together: { open: 3, heldUp: 2 } })).toEqual(['Packets are held up on the way']);
  });

  test('8 ms of silence are no cable: the time-out is too short; a dark light still is one', () => {
    const gone = {
      state: 'timed-out',
      expectedMs: 2,
      timeoutMs: 8,
      lately: { ...sound.lately, timeouts: 2 },
    } as const;
    expect(titles(gone)[0]).toBe('The time-out is shorter than a pause on the way');
    const real = { ...gone, indicators: [] };
    expect(titles(real)[0]).toBe('The time-out is shorter than a pause on the way');
    const dark = { name: 'link', colour: 'off', pattern: 'steady', means: 'no link' } as const;
    expect(titles({ ...gone, indicators: [dark] })[0]).toBe(
      'The cable is out, or a switch on the way is off',
    );
    expect(titles({ ...real, timeoutMs: 400 })[0]).not.toBe(
      'The time-out is shorter than a pause on the way',
    );
  });

  test('a robot in emergency stop is released, not asked for its fault code', () => {
    const red = { name: 'module', colour: 'red', pattern: 'flashing', means: 'minor fault' } as const;
    const fields = [
      { id: 'e', name: 'emergency_stop_clear', type: 'BOOL', at: 0, bits: 1, normallyClosed: true },
      { id: 'g', name: 'lid', type: 'BOOL', at: 1, bits: 1, normallyClosed: true, safety: true },
      { id: 'w', name: 'water', type: 'BOOL', at: 2, bits: 1, normallyClosed: true },
    ].map((f) => Field.parse(f));
    const image = testImage({ size: 1, fields });
    expect(actingStops(image, Uint8Array.of(0b110))).toEqual(['emergency_stop_clear']);
    expect(actingStops(image, Uint8Array.of(0b001))).toEqual(['lid']);
    expect(actingStops(image, Uint8Array.of(0b011))).toEqual([]);
    const causes = causesOf({ ...sound, indicators: [red] }, [], ['emergency_stop_clear']);
    expect(causes.map((c) => c.title)).toEqual([
      'An emergency stop or a guard holds the device',
      'The device itself has a fault',
    ]);
  });
});
