import { describe, expect, test } from 'vitest';
import { stationNameOf, stationNameTrouble } from './stationName.js';

describe('what may stand on the wire', () => {
  // RFC 1123, 2.1: letters, digits, hyphens; a digit may stand first; 63 characters a label.
  test.each(['belt-m1', '3com-belt', 'a', 'store3.belt-m1', 'x'.repeat(63)])('%s', (name) => {
    expect(stationNameTrouble(name)).toBeUndefined();
    expect(stationNameOf(name)).toBe(name);
  });
  test.each([
    ['', /empty/],
    ['a..b', /labels is empty/],
    ['-belt', /hyphen/],
    ['belt-', /hyphen/],
    ['x'.repeat(64), /more than 63/],
    [Array.from({ length: 5 }, () => 'x'.repeat(60)).join('.'), /more than 240/],
    ['brush_belt', /other characters/],
    ['Belt', /capital/],
    // From the rules of IEC 61784-2, from memory: a name must not read as an address or a port.
    ['192.168.40.21', /IPv4/],
    ['port-001', /port/],
  ])('not %s', (name, why) => expect(stationNameTrouble(name)).toMatch(why));
});

test.each([
  ['brush_belt_m1', 'brush-belt-m1'],
  ['Rack Lift A1', 'rack-lift-a1'],
  // The label that RFC 5890 and RFC 3492 (7.1) are shown with everywhere; checked with Python's idna codec:
  // 'bücher'.encode('idna').
  ['bücher', 'xn--bcher-kva'],
  // 'käsewender_r1' with a hyphen: b'xn--ksewender-r1-gcb' from Python 3.11's idna codec.
  ['käsewender_r1', 'xn--ksewender-r1-gcb'],
  ['port-001', 'n-port-001'],
  ['192.168.40.21', 'n-192-168-40-21'],
])('%s becomes %s', (name, station) => {
  expect(stationNameOf(name)).toBe(station);
  expect(stationNameTrouble(station)).toBeUndefined();
});
