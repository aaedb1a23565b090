import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { check, readCellFile } from '@fadenkreuz/core';
import { describe, expect, test } from 'vitest';
import { findHits, targetOf } from './find.js';

const cell = readCellFile(JSON.stringify(demo));
const findings = check(cell);
const find = (text: string, crosshair?: string) => findHits(cell, findings, text, crosshair);
const first = (text: string, crosshair?: string) => find(text, crosshair)[0];

describe('what a text names', () => {
  test.each([
    ['rack_lift_a1', { to: 'device', device: 'a1' }],
    ['192.168.40.21', { to: 'device', device: 'm1' }],
    ['servo axis', { to: 'device', device: 'a1' }],
    ['acceleration time', { to: 'view', path: 'parameters?device=m1&parameter=m1-p101' }],
    ['scan', { to: 'view', path: 'line-up/wire' }],
    ['add device', { to: 'view', path: 'line-up' }],
    ['new cell', { to: 'page', path: '/cells' }],
    ['import', { to: 'view', path: 'line-up' }],
    [
      'safety device on a standard protocol',
      targetOf(
        findings.find((f) => f.place.device === 'k1')!,
        cell,
      ),
    ],
  ])('%s', (text, go) => expect(find(text).map((hit) => hit.go)).toContainEqual(go));

  // The robot's signals are numbered from a base: signal 217 is bit 11 of its feedback (the manual of the demo).
  test('a signal of a numbered range, wherever the crosshair is', () => {
    const [hit] = find('signal 217');
    const robot = cell.devices.find((d) => d.name === 'wheel_turner_r1')!.links[0]!;
    expect([robot.command.id, robot.feedback.id]).toContain((hit!.go as { image: string }).image);
    expect((hit!.go as { bit: number }).bit).toBe(11);
  });

  test('a register of a Modbus device', () => {
    const pump = cell.devices.find((d) => d.name === 'brine_pump_m2')!.links[0]!;
    expect(find('register 3001').map((hit) => hit.go)).toContainEqual({
      ...{ to: 'bit', image: pump.feedback.id },
      bit: 16,
    });
  });

  test('a bare address is one of the image under the crosshair', () => {
    const { feedback } = cell.devices.find((d) => d.id === 'u1')!.links[0]!;
    expect(first('word 0 bit 9', feedback.id)?.go).toEqual({ to: 'bit', image: feedback.id, bit: 9 });
    expect(find('word 0 bit 9').filter((hit) => hit.title.includes('↔'))).toEqual([]);
  });

  test('another cell by its name and by its subnet', () => {
    const others = [{ id: 'c9', name: 'Presslinie Ä', subnet: '10.4.0.0/24' }];
    const go = { to: 'page', path: '/cells/c9/line-up' };
    for (const text of ['presslinie', 'cell 10.4'])
      expect(findHits(cell, [], text, undefined, others).map((hit) => hit.go)).toContainEqual(go);
    expect(find('presslinie')).toEqual([]);
  });

  test('nothing of this name', () => expect(find('zzz_nothing')).toEqual([]));
  test('without a text the views', () => expect(find('').length).toBeGreaterThan(10));
});
