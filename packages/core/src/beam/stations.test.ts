import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { drive } from '../devices/byRoles/drive.js';
import { servoAxis } from '../devices/byRoles/servoAxis.js';
import { driven } from '../devices/byRoles/testDevice.js';
import { layouts, type Wanted } from '../devices/byRoles/testLayouts.js';
import type { Role } from '../layout/role.js';
import { cia402 } from '../motion/cia402.js';
import { speedControl, twoWire } from '../motion/plainWords.js';
import { profidrive } from '../motion/profidrive.js';
import type { WordProfile } from '../motion/wordProfile.js';
import { profileOf, stationsOf } from './stations.js';

describe('stations on any layout', () => {
  const of = (...names: Role[]): Wanted[] => names.map((is) => ({ is }));
  test('an axis is led from disabled to enabled by the one write that is offered each time', () => {
    const out = [
      ...of('switch on', 'enable voltage', 'quick stop', 'enable', 'fault reset'),
      { is: 'position setpoint' as const },
    ];
    const back = of(
      'ready to switch on',
      'switched on',
      'enabled',
      'faulted',
      'switch on disabled',
      'quick stop active',
    );
    for (const laid of fc.sample(layouts(out, back), { numRuns: 8, seed: 402 })) {
      const axis = driven(servoAxis, laid);
      axis.after(60);
      const seen: string[] = [];
      for (let left = 12; left > 0; left -= 1) {
        axis.feedback.read();
        axis.command.read();
        const { state, next } = stationsOf(cia402, axis);
        if (seen.at(-1) !== state) seen.push(state);
        if (state === 'enabled') break;
        const role = axis.command.roles.find((r) => {
          const place = axis.command.placeOf(r);
          return place?.signal.id === next?.order?.field && place?.bit === next?.order?.bit;
        })!;
        expect(next!.missing.length).toBeGreaterThan(0);
        axis.after(60, { [role]: next!.order!.value });
      }
      expect(seen).toEqual(['disabled', 'ready', 'switched on', 'enabled']);
    }
  });

  const wholeWords: [Role[], Role[]] = [
    ['control word', 'speed reference'],
    ['status word', 'speed actual'],
  ];
  test.each<[string, Role[], Role[], WordProfile | undefined]>([
    ['ethernet-ip', ...wholeWords, cia402],
    ['modbus-tcp', ...wholeWords, cia402],
    ['profinet', ...wholeWords, profidrive],
    ['profinet', ['forward', 'reverse'], ['runs forward', 'faulted'], speedControl],
    ['ethernet-ip', ['start'], ['running'], twoWire],
    ['ethernet-ip', ['start', 'program number'], ['running'], undefined],
    ['ethernet-ip', ['trigger'], ['ready'], undefined],
  ])('over %s, %s and %s', (protocol, out, back, profile) => {
    const [laid] = fc.sample(layouts(of(...out), of(...back)), { numRuns: 1, seed: 61800 });
    expect(profileOf(driven(drive, laid!), protocol)?.id).toBe(profile?.id);
  });

  test('a drive in a fault: the reset leads to ready', () => {
    const out = [...of('forward', 'reverse', 'fault reset'), { is: 'speed reference' as const, unit: 'Hz' }];
    const laid = fc.sample(layouts(out, of('faulted', 'runs forward', 'runs reverse', 'ready')), {
      numRuns: 1,
      seed: 7,
    })[0]!;
    const one = driven(drive, laid);
    one.after(40, { forward: true, 'speed reference': 40 });
    one.inject('jammed');
    one.after(6000);
    one.clear('jammed');
    one.feedback.read();
    one.command.read();
    const { state, next } = stationsOf(speedControl, one);
    expect([state, next?.transition.title, next?.order?.how]).toEqual(['faulted', 'Fault reset', 'pulse']);
  });
});
