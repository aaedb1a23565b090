import { describe, expect, test } from 'vitest';
import { check } from '../checks/check.js';
import { readCellFile, writeCellFile } from './cellFile.js';
import { newCell } from './newCell.js';

describe('a new cell', () => {
  test.each([
    ['10.0.7.0/24', '10.0.7.10'],
    ['10.0.7.0/29', '10.0.7.6'],
    // RFC 3021: both addresses of a /31 are hosts.
    ['10.0.7.4/31', '10.0.7.5'],
  ])('in %s has its controller at %s, can be written, and nothing is wrong with it', (subnet, address) => {
    const cell = newCell('c1', { name: 'Press line', subnet, controller: 'plc_1' });
    expect(cell.controller).toMatchObject({ name: 'plc_1', address });
    expect(readCellFile(writeCellFile(cell))).toEqual(cell);
    expect(check(cell).filter((finding) => finding.severity === 'error')).toEqual([]);
  });

  test.each([
    [{ name: '', subnet: '10.0.0.0/8', controller: 'plc' }, 'name'],
    [{ name: 'x', subnet: '10.0.0.0', controller: 'plc' }, 'subnet'],
    [{ name: 'x', subnet: '10.0.0.0/8', controller: '' }, 'controller'],
  ])('%j is refused, and says where', (entries, where) =>
    expect(() => newCell('c1', entries)).toThrow(new RegExp(where)),
  );
});
