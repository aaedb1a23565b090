import { expect, test } from 'vitest';
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
  // A little late is no matter where nothing is left out.
  expect(titles({ ...leftOut, lately: { ...sound.lately, interval: 100 }, ownLatenessMs: 40 })).toEqual([]);
});
