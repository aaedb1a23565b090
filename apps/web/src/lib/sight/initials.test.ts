import { expect, test } from 'vitest';
import { initialsOf } from './initials.js';

test.each([
  ['net_control', 'nc'],
  ['hold', 'hol'],
  ['supply', 'sup'],
  ['SpeedRef', 'SR'],
  ['port_1_valid', 'p1v'],
  ['Übertemperatur_Motor', 'ÜM'],
  ['a_b_c_d_e_f', 'abc'],
  ['', ''],
])('%s is %s', (name, letters) => expect(initialsOf(name)).toBe(letters));
