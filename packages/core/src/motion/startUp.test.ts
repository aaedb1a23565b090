import { describe, expect, test } from 'vitest';
import { applyEdit } from '../cell/edits/edit.js';
import { testCell, testDevice, testLink } from '../cell/testCell.js';
import type { Device } from '../cell/model.js';
import { check } from '../checks/check.js';
import { flawFinding } from '../checks/motionRules.js';
import { Field } from '../layout/field.js';
import { ratio } from '../layout/ratio.js';
import { driveSettings } from '../parameters/driveSettings.js';
import { nameplateParameters, withNameplate } from '../parameters/nameplate.js';
import { turningCure } from '../parameters/turningCure.js';
import { Parameter } from '../devices/parameter.js';
import { DriveTrain, emptyTrain, ratedTorqueOf } from './driveTrain.js';
import { ratedShare, unitShare } from './driveUnits.js';
import { countsOf, followedScale, speedIn, strayed } from './following.js';
import { gearLibrary, motorLibrary, readMotors } from './library.js';
import { askedFor, controlModeOf, figuresOf, startUpSteps, torqueLimits, travelOf } from './startUp.js';

const train = (part: object) => DriveTrain.parse(part);
const servo = {
  ...{ type: 'synchronous', ratedTorque: 4.8, peakTorque: 14.4, ratedSpeed: 3000, maximumSpeed: 4500 },
  inertia: 2.13,
};
const move = { distance: 800, velocity: 500, acceleration: 2000, deceleration: 2000 };
const lift = {
  ...{ motor: servo, gear: { motor: '10' }, output: { is: 'belt', teeth: '40', pitch: '5' } },
  ...{ encoder: { type: 'absolute', increments: '131072', turns: 4096 }, load: { mass: 60 }, moves: [move] },
};
const flawsOf = (part: object, fields: readonly Field[] = []) =>
  (figuresOf(train({ ...lift, ...part }), fields)?.flaws ?? []).map(({ id }) => id);

describe('start-up step by step', () => {
  test('what is asked for goes as it is entered', () => {
    const asked = (part: object) => startUpSteps.filter(({ id }) => askedFor(train(part), id).length > 0);
    expect(asked({}).map(({ id }) => id)).toEqual(['motor', 'output', 'load', 'moves']);
    expect(asked({ motor: { type: 'asynchronous', ratedPower: 750, ratedSpeed: 1400 } })[0]!.id).toBe(
      'motor',
    );
    expect(asked(lift)).toEqual([]);
  });
  test('P = T·ω: 1500 W at 1425 rpm are 10.05 N·m (handbook formula, from memory)', () => {
    expect(ratedTorqueOf(motorLibrary.find(({ model }) => model === 'QM-90L4')!)).toBeCloseTo(10.052, 3);
  });
  test('control mode by motor and encoder (common practice, no source)', () => {
    expect(controlModeOf(emptyTrain)).toBeUndefined();
    expect(controlModeOf(train(lift))).toMatchObject({ positions: true });
    const open = { motor: { type: 'asynchronous' } };
    expect(controlModeOf(train(open))?.title).toContain('voltage by frequency');
    expect(controlModeOf(train({ motor: { type: 'synchronous' } }))?.positions).toBe(false);
  });
});

describe('what is wrong with a train', () => {
  test.each([
    ['inertia ratio', { load: { mass: 500 }, motor: { ...servo, ratedTorque: 100, peakTorque: 300 } }],
    ['rms torque', { load: { mass: 60, resistance: 5000 }, motor: { ...servo, peakTorque: 100 } }],
    ['peak torque', { motor: { ...servo, peakTorque: 0.5 } }],
    ['speed', { moves: [{ ...move, velocity: 1600, distance: 5000 }] }],
    ['field weakening', { moves: [{ ...move, velocity: 1200, distance: 5000 }] }],
    ['coupling', { coupling: { inertia: 0, torque: 0.3 } }],
    ['brake', { load: { mass: 60, incline: 90 }, brake: { torque: 1, closes: 1, opens: 1 } }],
    ['brake missing', { load: { mass: 60, incline: 90 } }],
    ['resistor missing', { supply: { capacitance: 0 } }],
    ['resistor resistance', { supply: { resistance: 100_000, power: 5000 } }],
    ['resistor power', { supply: { resistance: 100, power: 0.1 } }],
    ['encoder overflow', { encoder: { type: 'absolute', increments: '131072', turns: 8 } }],
    ['modulo drifts', { modulo: '7/3' }],
  ] as const)('%s', (flaw, part) => {
    expect(flawsOf(part)).toContain(flaw);
    const good = flawsOf({ supply: { capacitance: 100_000 } });
    expect(good).toEqual([]);
  });
  test('a finding says mm of an axis and degrees of a table', () => {
    const said = (output: object) => {
      const device = { id: 'd', name: 'turn', train: train({ ...lift, output }) };
      const flaw = { id: 'encoder overflow', is: 900, may: 360 } as const;
      return flawFinding(device, flaw).facts;
    };
    expect(said({ is: 'table' })).toMatchObject({ is: '900 °', may: '360 °' });
    expect(said({ is: 'screw', lead: '5' })).toMatchObject({ is: '900 mm' });
  });
  test('units that lose resolution: fields much coarser than the encoder', () => {
    const field = (factor: string) =>
      Field.parse({
        ...{ id: 'f', name: 'at', type: 'DINT', at: 0, bits: 32, unit: 'mm', scale: { factor, offset: '0' } },
        role: { is: 'position actual' },
      });
    expect(flawsOf({}, [field('1/10')])).toContain('units lose resolution');
    expect(flawsOf({}, [field('1/1000')])).not.toContain('units lose resolution');
  });
  test('travel of moves, and the limits of torque: rated power above the rated speed', () => {
    expect(travelOf(train({ moves: [move, { ...move, distance: -1000 }] }))).toBe(1000);
    const limits = torqueLimits(train(lift));
    expect(limits.at(-1)).toMatchObject({
      rpm: 4500,
      rated: expect.closeTo(3.2, 9),
      peak: expect.closeTo(9.6, 9),
    });
    expect(limits.every((l) => l.rpm <= 3000 || Math.abs(l.rated * l.rpm - 4.8 * 3000) < 1e-6)).toBe(true);
  });
});

/** An axis that is not in the demo, on Modbus: its parameters as a maker of its own names them. */
const parameter = (name: string, unit: string, factor: string, part: object = {}) =>
  Parameter.parse({
    ...{ id: name.replaceAll(/\W/g, '').slice(0, 30), name, unit, type: 'UDINT', bits: 32 },
    scale: { factor, offset: '0' },
    ...part,
  });
const plate = [
  parameter('Motor rated power', 'kW', '1/100'),
  parameter('Motor rated speed', '1/min', '1'),
  parameter('Motor poles', '', '1'),
  parameter('Motor inertia', 'kg·m²', '1/1000000'),
  parameter('Encoder increments', '', '1'),
];
const tuned = [
  parameter('Feed constant', 'mm', '1/1000'),
  parameter('Gear ratio numerator', '', '1'),
  parameter('Gear ratio denominator', '', '1'),
  parameter('Direction', '', '1', { initial: '0' }),
  parameter('Quick stop deceleration', 'mm/s²', '1/100'),
];
function axis(): { device: Device; of: (d: Device) => string } {
  const link = testLink('modbus-tcp');
  const field = (id: string, at: number, is: string) => ({
    ...Field.parse({ id, name: id, type: 'DINT', at, bits: 32 }),
    role: { is, number: null },
  });
  const command = { ...link.command, size: 8, fields: [field('goal', 0, 'position setpoint')] };
  const feedback = { ...link.feedback, size: 8, fields: [field('place', 0, 'position actual')] };
  const device = {
    ...{ ...testDevice(), kind: 'servo axis', links: [{ ...link, command, feedback } as never] },
    train: train({ ...lift, follows: [{ role: 'position setpoint', counts: 'increments' }] }),
  } as Device;
  return { device, of: (d) => d.links[0]!.command.fields[0]!.scale?.factor ?? '1' };
}

describe('fields that follow', () => {
  test('take their scale from the train, exactly, and change when it does', () => {
    const { device, of } = axis();
    const cell = testCell([device]);
    const set = (part: object) => ({
      ...{ edit: 'device.set', device: device.id },
      set: { train: { ...device.train, ...part } },
    });
    // 40 · 5 mm / 10 / 131072.
    const first = applyEdit(cell, set({}) as never);
    expect(of(first.devices[0]!)).toBe('5/32768');
    expect(first.devices[0]!.links[0]!.command.fields[0]!.unit).toBe('mm');
    expect(first.devices[0]!.links[0]!.feedback.fields[0]!.scale).toBeNull();
    const geared = applyEdit(
      first,
      set({ gear: { motor: '43', shaft: '6', efficiency: 1, inertia: 0 } }) as never,
    );
    expect(of(geared.devices[0]!)).toBe('75/352256');
    expect(of(applyEdit(geared, set({ reversed: true }) as never).devices[0]!)).toBe('-5/32768');
    // Changed by hand, it is a finding, whose cure takes it back.
    const strayedCell = applyEdit(first, {
      ...{ edit: 'field.set', image: device.links[0]!.command.id, field: 'goal' },
      set: { scale: { factor: '1/10', offset: '0' } },
    } as never);
    expect(strayed(strayedCell.devices[0]!).map(({ name }) => name)).toEqual(['goal']);
    const found = check(strayedCell).find(({ code }) => code === 'train.scaleStrayed');
    expect(of(applyEdit(strayedCell, found!.fix!.edit as never).devices[0]!)).toBe('5/32768');
  });
  test('hertz in hundredths: 100 counts are 1.00 Hz, 6000 are 60 Hz (common practice, no source)', () => {
    // Four poles without slip: 60 Hz are 1800 rpm, with 5 % slip 1710; a drum of 1/π m: 1 m a revolution.
    const belt = (motor: object) =>
      train({ output: { is: 'belt', teeth: '100', pitch: '10' }, motor: { type: 'asynchronous', ...motor } });
    const factor = (motor: object) =>
      followedScale(belt(motor), { role: 'speed reference', counts: 'Hz', places: 2, full: 1 })!.factor;
    const value = (text: string, raw: number) => ratio(text).mul(raw).valueOf();
    expect(value(factor({ poles: 4 }), 100)).toBe(500);
    expect(value(factor({ poles: 4 }), 6000)).toBe((1800 / 60) * 1000);
    const slips = { poles: 4, ratedSpeed: 1425, ratedFrequency: 50 };
    expect(value(factor(slips), 6000)).toBeCloseTo((1710 / 60) * 1000, 9);
    expect(followedScale(belt({}), { role: 'velocity', counts: 'Hz', places: 0, full: 1 })).toBeUndefined();
  });
  test('a position counts increments, whatever else a speed may count', () => {
    expect(countsOf('position actual')).toEqual(['increments']);
    expect(countsOf('acceleration')).toEqual(['increments/s²']);
    expect(countsOf('speed reference')).toEqual(['increments/s', 'rpm', 'Hz', '%', 'full scale']);
    expect(countsOf('start')).toEqual([]);
  });
  test('a speed of the axis in the unit of a field', () => {
    // 1 m a revolution of a motor with four poles: 500 mm/s are 30 rpm, 1 Hz without slip, 2 % of 1500 rpm.
    const belt = train({
      output: { is: 'belt', teeth: '100', pitch: '10' },
      motor: { type: 'asynchronous', poles: 4, ratedSpeed: 1500, ratedFrequency: 50 },
    });
    const units = ['mm/s', 'm/s', 'rpm', '1/min', 'Hz', '%', '°/s', 'furlong/s', ''];
    expect(units.map((unit) => speedIn(belt, unit, 500))).toEqual([
      ...[500, 0.5, 30, 30, 1, 2, undefined, undefined, undefined],
    ]);
    const table = train({ output: { is: 'table' } });
    expect([speedIn(table, '°/s', 30), speedIn(table, 'mm/s', 30), speedIn(table, 'Hz', 30)]).toEqual([
      ...[30, undefined, undefined],
    ]);
  });
  test('per cent and counts of the rated speed: 16384 are 100 % (IEC 61800-7-203; from memory)', () => {
    const screw = train({
      output: { is: 'screw', lead: '10' },
      motor: { type: 'synchronous', ratedSpeed: 3000 },
    });
    const at = (counts: '%' | 'full scale', raw: number, full = 16_384) =>
      ratio(followedScale(screw, { role: 'velocity', counts, places: 0, full })!.factor)
        .mul(raw)
        .valueOf();
    expect([at('%', 100), at('full scale', 16_384), at('full scale', 30_000, 30_000)]).toEqual([
      500, 500, 500,
    ]);
    expect(at('full scale', -8192)).toBe(-250);
  });
  test('velocity in rpm, in hundredths, of a table', () => {
    const table = train({ output: { is: 'table' }, gear: { motor: '20' } });
    expect(followedScale(table, { role: 'speed actual', counts: 'rpm', places: 2, full: 1 })).toEqual({
      ...{ factor: '3/1000', unit: '°/s' },
    });
    expect(
      followedScale(table, { role: 'speed actual', counts: 'increments/s', places: 0, full: 1 }),
    ).toBeUndefined();
    expect(
      followedScale(emptyTrain, { role: 'speed actual', counts: 'rpm', places: 0, full: 1 }),
    ).toBeUndefined();
  });
});

describe('nameplate and settings of a drive that is not in the demo', () => {
  test('units of other makers: 0.75 kW, 0.00185 kg·m²', () => {
    expect(nameplateParameters([...plate, ...tuned])).toHaveLength(plate.length);
    const values: Record<string, number> = {
      ...{ Motorratedpower: 0.75, Motorratedspeed: 1400, Motorpoles: 4, Motorinertia: 0.00185 },
      Encoderincrements: 4096,
    };
    const read = withNameplate(emptyTrain, plate, (id) => values[id]);
    expect(read.motor).toMatchObject({ ratedPower: 750, ratedSpeed: 1400, poles: 4, from: 'nameplate' });
    expect(read.motor!.inertia).toBeCloseTo(18.5, 9);
    expect(read.encoder).toMatchObject({ increments: '4096' });
    expect([unitShare('kgm²'), ratedShare('m/s2'), unitShare('furlong')]).toEqual([1e4, 1000, undefined]);
  });
  test('what it said is locked until it is uncoupled; what it did not say may be entered', () => {
    const { device } = axis();
    const motor = { ...device.train!.motor!, from: 'nameplate' };
    const coupled = { ...device, train: { ...device.train!, motor } } as Device;
    const edit = (part: object) =>
      ({
        ...{ edit: 'device.set', device: device.id },
        set: { train: { ...coupled.train, motor: { ...motor, ...part } } },
      }) as never;
    const cell = testCell([coupled]);
    expect(() => applyEdit(cell, edit({ ratedTorque: 6 }))).toThrow(/locked/);
    expect(applyEdit(cell, edit({ ratedCurrent: 5 })).devices[0]!.train!.motor!.ratedCurrent).toBe(5);
    expect(
      applyEdit(cell, edit({ from: 'typed', ratedTorque: 6 })).devices[0]!.train!.motor!.ratedTorque,
    ).toBe(6);
  });
  test('what follows for its parameters, with the reason', () => {
    const wanted = train({ ...lift, quickStop: 6000, gear: { motor: '7.5' } });
    const settings = driveSettings(wanted, tuned).map(({ parameter: p, value }) => [p.name, value]);
    expect(Object.fromEntries(settings)).toEqual({
      ...{ 'Feed constant': '200', 'Gear ratio numerator': '15', 'Gear ratio denominator': '2' },
      ...{ Direction: '0', 'Quick stop deceleration': '6000' },
    });
    expect(driveSettings(wanted, plate).map(({ value }) => value)).toContain('3000');
    // What the drive itself said needs no writing.
    const told = { ...wanted, motor: { ...wanted.motor!, from: 'nameplate' as const } };
    expect(driveSettings(told, plate)).toEqual([]);
  });
  test('its direction is turned round in one place alone', () => {
    const { device } = axis();
    const turned = (part: object, planned: string) => {
      const parameters = tuned.map((p) => (p.name === 'Direction' ? { ...p, planned } : p));
      const own = { ...device, train: train({ ...lift, ...part }) };
      return { ...own, description: { ...device.description, parameters } } as Device;
    };
    const follows = [{ role: 'position actual', counts: 'increments' }];
    const codes = (one: Device) => check(testCell([one])).map(({ code }) => code);
    const direction = (one: Device) =>
      driveSettings(one.train!, tuned).find(({ parameter: p }) => p.name === 'Direction')!.value;
    for (const [part, planned, twice, wanted] of [
      [{ reversed: true, follows }, '1', true, '0'],
      [{ reversed: true, follows }, '0', false, '0'],
      [{ reversed: true }, '1', false, '1'],
      [{ follows }, '1', false, '0'],
    ] as const) {
      const one = turned(part, planned);
      expect([codes(one).includes('train.turnedTwice'), direction(one)]).toEqual([twice, wanted]);
    }
  });
  test('speeds and accelerations in the units of the drive: 1 m a revolution, four poles, without slip', () => {
    const belt = train({
      ...{ output: { is: 'belt', teeth: '100', pitch: '10' }, quickStop: 4000 },
      motor: { type: 'asynchronous', poles: 4 },
      moves: [{ ...move, velocity: 500, acceleration: 2000, deceleration: 1000 }],
    });
    const settings = (unit: string, perSecond: string) =>
      driveSettings(belt, [
        parameter('Highest frequency', unit, '1/100'),
        parameter('Acceleration limit', perSecond, '1/100'),
        parameter('Quick stop deceleration', perSecond, '1/100'),
      ]).map(({ value }) => value);
    // 500 mm/s are 30 rpm and 1 Hz; 4000 mm/s² are 240 rpm/s and 8 Hz/s.
    expect(settings('Hz', 'Hz/s')).toEqual(['1', '8', '8']);
    expect(settings('rpm', 'rpm/s')).toEqual(['30', '240', '240']);
    expect(settings('m/s', 'm/s²')).toEqual(['0.5', '4', '4']);
    expect(settings('mm/s', 'mm/s2')).toEqual(['500', '4000', '4000']);
    // A time, or no unit: nothing is said of it.
    expect(settings('', 's')).toEqual([]);
  });
  test('the way to turn its direction round', () => {
    const { device } = axis();
    const own = { ...device, description: { ...device.description, parameters: tuned } };
    expect(turningCure(own)).toMatchObject({ parameter: { value: '1' }, scale: true });
    expect(turningCure({ ...own, train: null })).toMatchObject({ scale: false });
    expect(turningCure(device).parameter).toBeUndefined();
  });
});

describe('the library', () => {
  test('motors and gears are whole, and a table of somebody’s own is read', () => {
    expect(motorLibrary.every((m) => ratedTorqueOf(m) !== undefined && m.inertia !== null)).toBe(true);
    expect(gearLibrary.every(({ gear }) => train({ gear }).gear.efficiency <= 1)).toBe(true);
    const [one] = readMotors(
      'model,type,ratedPower,ratedSpeed,poles,inertia\nM1,asynchronous,550,1400,4,7.2\n',
    );
    expect(one).toMatchObject({ model: 'M1', ratedPower: 550, poles: 4, from: 'library', ratedTorque: null });
  });
  test.each([
    ['model,power\nM1,550', /column power/],
    ['model,ratedPower\nM1,550', /column type/],
    ['model,type,ratedPower\nM1,synchronous,-5', /line 2, ratedPower/],
    ['model,type,poles\nM1,synchronous,4\nM2,stepper,4', /line 3, type/],
  ])('says what it does not understand of %j', (text, says) => {
    expect(() => readMotors(text)).toThrow(says);
  });
});
