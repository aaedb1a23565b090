import { expect, test, vi } from 'vitest';
import { Parameter } from '../parameter.js';
import { DescribedParameters } from './parameters.js';

const parameter = (code: string, more: Partial<Parameter> = {}): Parameter =>
  Parameter.parse({ id: `p${code}`, code, name: code, type: 'UINT', bits: 16, initial: '1', ...more });
const word = (value: number) => Uint8Array.of(value & 0xff, value >> 8);

const all = [
  parameter('1'),
  parameter('2', { retained: 'after saving' }),
  parameter('3', { retained: 'never' }),
  parameter('4', { retained: 'always' }),
  parameter('5', {
    initial: '0',
    role: { is: 'device command', number: null },
    labels: [
      { value: 1, text: 'save to memory' },
      { value: 2, text: 'restart' },
    ],
  }),
];
const after = (...work: ((of: DescribedParameters) => void)[]) => {
  const of = new DescribedParameters(all);
  for (const one of of.all.slice(0, 4)) expect(one.write(word(7))).toBeUndefined();
  for (const step of work) step(of);
  return of.all.slice(0, 4).map((one) => one.value);
};
const power = (of: DescribedParameters) => of.powerOn();
const order = (value: number) => (of: DescribedParameters) => void of.all[4]!.write(word(value));

test('a loss of power leaves what its retention says', () => {
  expect(after()).toEqual([7, 7, 7, 7]);
  expect(after(power)).toEqual([7, 1, 1, 7]);
  expect(after(order(1), power)).toEqual([7, 7, 1, 7]);
  expect(after(order(1), (of) => of.restore(), power)).toEqual([1, 1, 1, 1]);
});

test('a command acts and is gone; a restart is one', () => {
  const of = new DescribedParameters(all);
  const restart = vi.fn();
  of.onRestart = restart;
  order(1)(of);
  expect(restart).not.toHaveBeenCalled();
  order(2)(of);
  expect(restart).toHaveBeenCalledOnce();
  expect(of.all[4]!.value).toBe(0);
});

test('what needs a standstill is refused while the device runs', () => {
  const of = new DescribedParameters([parameter('1', { stopFirst: true })]);
  of.show({ running: true });
  expect(of.all[0]!.write(word(7))).toBe('state');
  of.show({ running: false });
  expect(of.all[0]!.write(word(7))).toBeUndefined();
});

test('settings of several of a kind have their number, and say what their label says', () => {
  const mode = (number: number, initial: string) =>
    parameter(`m${number}`, {
      ...{ initial, role: { is: 'port mode', number } },
      labels: [{ value: 1, text: 'IO-Link' }],
    });
  const of = new DescribedParameters([mode(1, '1'), mode(2, '2')]);
  expect(of.set('port mode', 1)).toEqual({ value: 1, unit: '', label: 'IO-Link' });
  expect(of.set('port mode', 2)).toEqual({ value: 2, unit: '' });
  expect(of.set('port mode', 3)).toBeUndefined();
});
