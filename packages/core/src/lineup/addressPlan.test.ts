import { describe, expect, test } from 'vitest';
import { testCell, testDevice } from '../cell/testCell.js';
import { hostsOf } from '../bytes/subnet.js';
import { freeAddress, isHost, maskOf, subnetOf } from './addressPlan.js';
import { dottedAddress } from '../bytes/ipv4.js';

describe('subnets', () => {
  // RFC 4632, 3.1: the table of prefixes and the addresses in each (from memory).
  test.each([
    [32, 1],
    [31, 2],
    [30, 4],
    [24, 256],
    [22, 1024],
    [20, 4096],
    [16, 65_536],
  ])('/%i holds %i addresses', (prefix, addresses) => {
    const { first, last } = hostsOf(`10.24.0.0/${prefix}`);
    // Two of them name the network and everybody in it, but for /31 and /32 (RFC 3021).
    expect(last - first + 1).toBe(prefix >= 31 ? addresses : addresses - 2);
  });

  // RFC 4632, 5.1: the blocks that the example provider gives out (from memory): 10.24.0.0 to 10.24.7.0 is
  // 10.24.0.0/21, mask 255.255.248.0.
  test.each([
    ['10.24.0.0/21', '255.255.248.0', '10.24.0.1', '10.24.7.254'],
    ['10.24.16.0/20', '255.255.240.0', '10.24.16.1', '10.24.31.254'],
    ['10.24.8.0/22', '255.255.252.0', '10.24.8.1', '10.24.11.254'],
    ['10.24.34.0/23', '255.255.254.0', '10.24.34.1', '10.24.35.254'],
  ])('%s: mask %s, hosts %s to %s', (subnet, mask, first, last) => {
    const hosts = hostsOf(subnet);
    expect([maskOf(subnet), dottedAddress(hosts.first), dottedAddress(hosts.last)]).toEqual([
      mask,
      first,
      last,
    ]);
    expect(isHost(subnet, last)).toBe(true);
  });
});

test('the first subnet of a cell that holds an address', () => {
  const { network } = testCell();
  const wide = { ...network, further: ['10.5.0.0/16'] };
  expect(subnetOf(wide, '192.168.40.9')).toBe('192.168.40.0/24');
  expect(subnetOf(wide, '10.5.200.1')).toBe('10.5.0.0/16');
  expect(subnetOf(wide, '10.6.0.1')).toBeUndefined();
});

describe('the next free address', () => {
  const range = (part: object) => ({ id: 'r', first: '', last: '', kind: null, title: '', ...part });
  const cell = (network: object, devices = [testDevice()]) => {
    const base = testCell(devices);
    return { ...base, network: { ...base.network, ...network } };
  };

  test('begins behind the low ones of a large subnet, and passes over what is taken', () => {
    expect(freeAddress(cell({}))).toBe('192.168.40.10');
    const devices = ['10', '11', '13'].map((n, i) => testDevice({ id: `d${i}`, address: `192.168.40.${n}` }));
    expect(freeAddress(cell({}, devices))).toBe('192.168.40.12');
  });

  test('there is none in a full subnet', () => {
    const small = cell({ subnet: '192.168.40.0/30', gateway: '192.168.40.2' });
    expect(freeAddress(small)).toBe('');
  });

  test('lies in the range of the kind, never in a reserved one', () => {
    const ranges = [
      range({ id: 'a', first: '192.168.40.100', last: '192.168.40.102', kind: 'robot' }),
      range({ id: 'b', first: '192.168.40.100', last: '192.168.40.100' }),
      range({ id: 'c', first: '192.168.40.10', last: '192.168.40.19' }),
    ];
    expect(freeAddress(cell({ ranges }), 'robot')).toBe('192.168.40.101');
    expect(freeAddress(cell({ ranges }), 'marker')).toBe('192.168.40.20');
  });
});
