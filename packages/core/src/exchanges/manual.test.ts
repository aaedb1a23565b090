import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Exchange, Order } from '../cell/exchange.js';
import type { Link } from '../cell/link.js';
import type { Device } from '../cell/model.js';
import { layouts, type Wanted } from '../devices/byRoles/testLayouts.js';
import type { DeviceKind } from '../devices/kinds.js';
import type { Role } from '../layout/role.js';
import { DriveTrain } from '../motion/driveTrain.js';
import { ExchangeImages } from './images.js';
import { letGoLimitMs, manualHome, manualMove, manualValues, manualWayOf } from './manual.js';
import { ExchangeRun } from './run.js';
import { cellWith, scanMs, TestMachine } from './testMachine.js';
import { runs } from '../testRuns.js';

const of = (...names: Wanted['is'][]): Wanted[] => names.map((is) => ({ is }));
const hz: Wanted = { is: 'speed reference', unit: 'Hz' };
const mm: Wanted = { is: 'position setpoint', unit: 'mm' };
const velocity: Wanted = { is: 'velocity', unit: 'mm/s' };
const at: Wanted = { is: 'position actual', unit: 'mm' };
const axisBack = [...of('enabled', 'homed', 'faulted', 'target reached', 'setpoint acknowledge'), at];

interface Case {
  title: string;
  kind: DeviceKind;
  way: string;
  commands: readonly Wanted[];
  answers: readonly Wanted[];
  homes?: true;
}
const cases: readonly Case[] = [
  {
    ...{
      title: 'a drive with a start for each direction',
      kind: 'variable-speed drive',
      way: 'speed reference',
    },
    commands: [...of('forward', 'reverse', 'network control', 'network reference'), hz],
    answers: [...of('runs forward', 'runs reverse'), { is: 'speed actual', unit: 'Hz' }],
  },
  {
    ...{ title: 'a drive with start and direction', kind: 'variable-speed drive', way: 'speed reference' },
    commands: [...of('start', 'direction', 'stop', 'enable'), hz],
    answers: of('running', 'faulted'),
  },
  {
    ...{ title: 'an axis with modes of operation', kind: 'servo axis', way: 'velocity', homes: true },
    commands: [
      ...of('enable voltage', 'switch on', 'enable', 'quick stop', 'setpoint strobe', 'operating mode'),
      ...[mm, velocity],
    ],
    answers: [...of('ready to switch on', 'switched on', 'mode shown'), ...axisBack],
  },
  {
    ...{ title: 'an axis of setpoints, with hold', kind: 'servo axis', way: 'setpoints', homes: true },
    commands: [...of('enable', 'hold', 'home', 'setpoint strobe'), mm, velocity],
    answers: axisBack,
  },
  {
    ...{ title: 'an axis of setpoints, with a quick stop alone', kind: 'servo axis', way: 'setpoints' },
    commands: [
      ...of('enable voltage', 'switch on', 'enable', 'quick stop', 'setpoint strobe', 'fault reset'),
      ...[mm, velocity],
    ],
    answers: [...of('ready to switch on', 'switched on'), ...axisBack],
  },
];

/** A machine of a case, and what a person does with it. */
function moved(one: Case, laid: Parameters<typeof cellWith>[1], protocol: Link['protocol']) {
  const { cell, device } = cellWith(one.kind, laid, protocol);
  const machine = new TestMachine(one.kind, device.links[0]!, { seed: 3, lost: 5, delay: 1 });
  const way = manualWayOf(device)!;
  const places = [...way.run(1), ...way.run(-1), ...way.stop].map(({ place }) => place);
  const images = new ExchangeImages(cell, [...places, ...way.ready.map((r) => r.place)], () => machine);
  let now = 0;
  const step = (ms: number) => {
    const end = now + ms;
    for (; now < end; now += scanMs) machine.step();
  };
  return {
    ...{ way, device, machine, step },
    run(exchange: Exchange, given: Record<string, number> = {}) {
      const run = new ExchangeRun(cell, exchange, () => machine, given);
      for (; run.state === 'running' && now < 200_000; now += scanMs) {
        run.scan(now);
        machine.step();
      }
      return run;
    },
    put(orders: readonly Order[]) {
      images.read();
      for (const { place, to } of orders) images.at(place).put(to as number);
    },
  };
}

const protocols = ['ethernet-ip', 'modbus-tcp'] as const;
describe.each(cases.map((one) => [one.title, one] as const))('%s', (_title, one) => {
  test('is made ready, moves both ways as long as it is told, and rests', () => {
    fc.assert(
      fc.property(layouts(one.commands, one.answers), fc.constantFrom(...protocols), (laid, protocol) => {
        const m = moved(one, laid, protocol);
        // A velocity without a sign has one way alone: then it is moved by setpoints.
        const signed = !unsigned(m.device, one);
        expect(m.way.way).toBe(one.way === 'velocity' && !signed ? 'setpoints' : one.way);
        const home = manualHome(m.device);
        if (home && m.way.way === 'setpoints') {
          // Bits that act at 0 may have homed it before anybody came.
          const { failure } = m.run(m.way.prepare);
          if (failure) expect(failure.reason).toMatch(/not homed/);
          if (failure) m.run(home, { velocity: 50 });
        }
        for (const speed of [3, -3]) {
          const ready = m.run(m.way.prepare);
          expect(ready.failure).toBeUndefined();
          m.put(m.way.run(speed));
          m.step(1500);
          const along = m.machine.moves;
          if (Math.sign(along) !== Math.sign(speed))
            expect([one.way, signed]).toEqual(['speed reference', false]);
          m.put(m.way.stop);
          m.step(1500);
          expect(m.machine.moves).toBe(0);
        }
      }),
      { numRuns: runs(10), seed: 230_040 },
    );
  });
  test('goes to a position, and homes, where it has one', () => {
    const laid = fc.sample(layouts(one.commands, one.answers), { numRuns: 1, seed: 230_041 })[0]!;
    const m = moved(one, laid, 'modbus-tcp');
    const [home, go] = [manualHome(m.device), manualMove(m.device)];
    expect([home !== undefined, go !== undefined]).toEqual([one.homes === true, one.kind === 'servo axis']);
    if (home) {
      expect(m.run(home, { velocity: 50 }).state).toBe('done');
      expect(m.machine.now.bit('homed')).toBe(true);
    }
    if (!go) return;
    expect(m.run(go, { position: 12, velocity: 50 }).failure).toBeUndefined();
    expect(m.machine.now.number('position actual')).toBeCloseTo(12, 1);
  });
});

/** Whether a velocity below 0 does not fit its field. */
function unsigned(device: ReturnType<typeof cellWith>['device'], { way }: Case): boolean {
  const role = way === 'velocity' ? 'velocity' : 'speed reference';
  const field = device.links[0]!.command.fields.find((f) => f.role?.is === role);
  return field?.type.startsWith('U') === true;
}

test('what has nothing to be moved by has no way, and nobody moves faster than its limit', () => {
  const laid = fc.sample(layouts(of('trigger'), of('busy')), { numRuns: 1, seed: 1 })[0]!;
  expect(manualWayOf(cellWith('vision sensor', laid, 'ethernet-ip').device)).toBeUndefined();
  expect(letGoLimitMs(cellWith('vision sensor', laid, 'ethernet-ip').device)).toBe(2 * 20);
  const axis = fc.sample(layouts(cases[3]!.commands, axisBack), { numRuns: 1, seed: 1 })[0]!;
  expect(manualWayOf(cellWith('servo axis', axis, 'ethernet-ip').device)).toMatchObject({
    unit: 'mm/s',
    limit: 250,
  });
});

test('values beside what they may be: by the fields, and by the drive train', () => {
  const answers = [...axisBack, ...of('limit positive'), { is: 'torque actual', unit: '%' } as const];
  const laid = fc.sample(layouts(cases[3]!.commands, answers), { numRuns: 1, seed: 5 })[0]!;
  const { device } = cellWith('servo axis', laid, 'modbus-tcp');
  const train = DriveTrain.parse({
    motor: { type: 'synchronous', ratedTorque: 4, peakTorque: 12 },
    ...{ output: { is: 'screw', lead: '10' }, manualSpeed: 80 },
  });
  const planned = { ...device, train };
  const range = (of: Device, role: Role) => manualValues(of).find(({ title }) => title === role)?.range;
  expect(range(planned, 'torque actual')).toEqual({ low: -300, high: 300 });
  expect(range(device, 'torque actual')).toBeNull();
  expect(range(planned, 'limit positive')).toBeNull();
  expect(manualWayOf(planned)).toMatchObject({ unit: 'mm/s', limit: 80 });
  expect(range(planned, 'motor current')).toBeUndefined();
});

test('fastest by hand of a drive train holds for a drive in hertz, too', () => {
  const laid = fc.sample(layouts(cases[1]!.commands, cases[1]!.answers), { numRuns: 1, seed: 6 })[0]!;
  const { device } = cellWith('variable-speed drive', laid, 'modbus-tcp');
  expect(manualWayOf(device)).toMatchObject({ unit: 'Hz', limit: 10 });
  // 1 m a revolution, four poles: 100 mm/s are 0.2 Hz.
  const train = DriveTrain.parse({
    motor: { type: 'asynchronous', poles: 4 },
    ...{ output: { is: 'belt', teeth: '100', pitch: '10' }, manualSpeed: 100 },
  });
  expect(manualWayOf({ ...device, train })).toMatchObject({ unit: 'Hz', limit: 0.2 });
});
