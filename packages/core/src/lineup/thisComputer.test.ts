import { expect, test } from 'vitest';
import { testCell } from '../cell/testCell.js';
import { computerStanding } from './thisComputer.js';

const own = (address: string, prefix = 24) => ({ name: 'eth0', address, subnet: `${address}/${prefix}` });
const cell = { ...testCell(), network: { ...testCell().network, further: ['10.9.0.0/16'] } };

test('an adapter in the subnet needs nothing; elsewhere it is said what to set', () => {
  const [here, there] = computerStanding(cell, [own('192.168.40.200'), own('172.16.0.9')]);
  expect(here).toMatchObject({ adapter: { address: '192.168.40.200' }, clash: undefined, set: undefined });
  expect(there).toMatchObject({ adapter: undefined, set: { address: '10.9.0.10', mask: '255.255.0.0' } });
});

test('an adapter with the address of a planned device must get another', () => {
  const [here] = computerStanding(cell, [own('192.168.40.21')]);
  expect(here).toMatchObject({ clash: 'pump_m1', set: { address: '192.168.40.10', mask: '255.255.255.0' } });
});
