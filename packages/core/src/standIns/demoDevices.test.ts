import { describe, expect, test } from 'vitest';
import { actingByRoles } from '../cell/acting.js';
import { check } from '../checks/check.js';
import { demoCell as cell, Trial } from './testTrial.js';

describe('the demo plans its devices as they are', () => {
  test.each(cell.devices)('$name', (device) => {
    expect(device.identity).toEqual(device.description.identity);
    expect(actingByRoles(device)).toBeDefined();
    const wrong = check(cell).filter((f) => f.place.device === device.id && f.severity === 'error');
    expect(wrong).toEqual([]);
  });
});

describe('speed drive', () => {
  const ready = () =>
    new Trial('m1')
      .around({ load: 0.6 })
      .set({ net_control: true, net_reference: true, acceleration_time: 2 });

  test('ramps to its reference in the time that was set, and slips below it', () => {
    const drive = ready().set({ run_forward: true, speed_reference: 25 }).after(500);
    // 50 Hz in 2 s: 12.5 Hz after half a second.
    expect(drive.get('speed_actual')).toBeGreaterThan(9);
    expect(drive.get('speed_actual')).toBeLessThan(12.5);
    drive.after(1500);
    expect(drive.get('at_reference')).toBe(1);
    expect(drive.get('speed_actual')).toBeLessThan(25);
    expect(drive.get('speed_actual')).toBeGreaterThan(22);
    expect(drive.get('speed_actual')).toBeGreaterThan(0);
  });

  test('does nothing while the keypad starts it, and stands while the keypad sets its speed', () => {
    const keypad = new Trial('m1').set({ run_forward: true, speed_reference: 25 }).after(500);
    expect(keypad.get('drive_state')).toBe(3);
    keypad.set({ net_control: true, run_forward: false }).after(20).set({ run_forward: true }).after(500);
    expect([keypad.get('drive_state'), keypad.get('speed_actual')]).toEqual([4, 0]);
  });

  test('a ramp over the drive object is that of the parameter, and the other way round', () => {
    const drive = new Trial('m1').set({ net_control: true }).after(20);
    drive.state = drive.behaviour.drive!.change(drive.state, { accelerationTime: 12_000 });
    const [up] = drive.parameters.all;
    expect([up!.value, drive.after(20).behaviour.drive!.facts(drive.state).accelerationTime]).toEqual([
      12, 12_000,
    ]);
    up!.write(Uint8Array.of(50, 0));
    expect(drive.after(20).behaviour.drive!.facts(drive.state).accelerationTime).toBe(5000);
  });

  test('both directions at once mean none', () => {
    const drive = ready().set({ run_forward: true, run_reverse: true, speed_reference: 25 }).after(500);
    expect(drive.get('speed_actual')).toBe(0);
  });

  test('a jam trips it; the reset needs its edge and a free belt, the start a fresh edge', () => {
    const drive = ready()
      .set({ run_forward: true, speed_reference: 40 })
      .after(3000)
      .fault('jammed')
      .after(12_000);
    expect([drive.get('faulted'), drive.get('drive_state')]).toEqual([1, 7]);
    drive.set({ fault_reset: true }).after(50);
    expect(drive.get('faulted')).toBe(1);
    drive.set({ fault_reset: false }).fault('jammed', false).after(50).set({ fault_reset: true }).after(2000);
    expect([drive.get('faulted'), drive.get('speed_actual')]).toEqual([0, 0]);
    drive.set({ run_forward: false }).after(20).set({ run_forward: true }).after(500);
    expect(drive.get('running_forward')).toBe(1);
  });

  test('braking too fast feeds its bus until it trips', () => {
    const drive = ready().set({ run_forward: true, speed_reference: 50, deceleration_time: 0.1 }).after(4000);
    drive.set({ run_forward: false }).after(300);
    expect(drive.get('faulted')).toBe(1);
  });

  test('basic and extended assemblies say the same in rpm', () => {
    const drive = ready().set({ run_forward: true, speed_reference: 25 }).after(3000);
    const bytes = drive.bytes(71);
    const rpm = new DataView(bytes.buffer).getInt16(2, true);
    // Four poles: 30 rpm for each Hz.
    expect(rpm / 30).toBeCloseTo(drive.get('speed_actual'), 1);
    expect(bytes[0]! & 0b1111_0101).toBe(0b1111_0100);
  });
});

describe('servo axis', () => {
  const steps = [
    { enable_voltage: true, quick_stop_inactive: true },
    { switch_on: true },
    { enable_operation: true },
  ];
  const enabled = (mode: number) => {
    const axis = new Trial('a1').around({ load: 24, 'starts at': 340 }).set({ mode });
    for (const step of steps) axis.set(step).after(30);
    return axis;
  };
  const homed = () => {
    const axis = enabled(6).set({ new_setpoint: true }).after(9000).set({ new_setpoint: false });
    expect(axis.get('homed')).toBe(1);
    // The mode may only change while it is not enabled.
    return axis.set({ enable_operation: false, mode: 1 }).after(50).set({ enable_operation: true }).after(50);
  };
  const move = (axis: Trial, target: number) =>
    axis
      .set({ target_position: target, profile_velocity: 500, acceleration: 1000, new_setpoint: true })
      .after(30);

  test('goes through the states of the profile, one a command', () => {
    const axis = new Trial('a1').after(20);
    const states = [axis.get('axis_state')];
    for (const step of steps) states.push(axis.set(step).after(30).get('axis_state'));
    // Disabled, ready to switch on, switched on, operation enabled (IEC 61800-7-201, 5.3; from memory).
    expect(states).toEqual([0, 1, 2, 3]);
  });

  test('takes no setpoint before it is homed', () => {
    const axis = move(enabled(1), 300);
    expect([axis.get('setpoint_acknowledge'), axis.after(1000).get('position_actual')]).toEqual([0, 340]);
  });

  test('acknowledges a setpoint, moves, and reports that it has come', () => {
    const axis = move(homed(), 700);
    expect([axis.get('setpoint_acknowledge'), axis.get('target_reached')]).toEqual([1, 0]);
    axis.set({ new_setpoint: false }).after(1000);
    expect(axis.get('setpoint_acknowledge')).toBe(0);
    expect(axis.get('velocity_actual')).toBeGreaterThan(400);
    expect(Math.abs(axis.get('position_lag'))).toBeGreaterThan(1);
    axis.after(1500);
    expect(axis.get('target_reached')).toBe(1);
    expect(axis.get('position_actual')).toBeCloseTo(700, 0);
  });

  test('a setpoint that stays set is not taken again', () => {
    const axis = move(homed(), 300).after(2000).set({ target_position: 600 }).after(1000);
    expect(axis.get('position_actual')).toBeCloseTo(300, 0);
  });

  test('a target beyond its travel is limited, and said', () => {
    const codec = homed();
    codec.set({ target_position: 1800, profile_velocity: 900, acceleration: 2000, new_setpoint: true });
    expect(codec.after(4000).get('internal_limit')).toBe(0);
    expect(codec.get('position_actual')).toBeCloseTo(1800, 0);
  });

  test('a blocked car ends in a following error, which only a reset ends', () => {
    const axis = move(homed(), 200).set({ new_setpoint: false }).after(3000).fault('blocked');
    move(axis, 900).after(1000);
    expect([axis.get('fault'), axis.get('following_error')]).toEqual([1, 1]);
    expect(axis.get('error_code')).toBe(0x8611);
    axis.fault('blocked', false).set({ fault_reset: true, new_setpoint: false }).after(100);
    expect(axis.get('fault')).toBe(0);
  });
});

describe('robot', () => {
  const permitted = () => new Trial('r1').set({ servo_on: true, hold: true, permit_motion: true }).after(50);
  const start = (robot: Trial, program: number) =>
    robot
      .set({ program_number: program, program_start: true })
      .after(50)
      .set({ program_start: false })
      .after(50);

  test('starts on the falling edge, not on the rising one', () => {
    const robot = permitted().set({ program_number: 2, program_start: true }).after(200);
    expect(robot.get('program_runs')).toBe(0);
    robot.set({ program_start: false }).after(50);
    expect([robot.get('program_runs'), robot.get('program_echo')]).toEqual([1, 2]);
  });

  test.each(['servo_on', 'hold', 'permit_motion'])('does not start without %s', (signal) => {
    const robot = permitted().set({ [signal]: false });
    expect(start(robot, 2).get('program_runs')).toBe(0);
  });

  test('holds in the middle of a program and goes on', () => {
    const robot = start(permitted(), 2).after(1000).set({ hold: false }).after(10_000);
    expect([robot.get('program_runs'), robot.get('program_done')]).toEqual([1, 0]);
    expect(robot.set({ hold: true }).after(4000).get('program_done')).toBe(1);
  });

  test('picks a wheel up with air, nothing without, and puts it on the scale', () => {
    expect(
      start(permitted().around({ 'gripper air': 0 }), 1)
        .after(3000)
        .get('wheel_in_gripper'),
    ).toBe(0);
    const robot = start(permitted(), 1).after(3000);
    expect(robot.get('wheel_in_gripper')).toBe(1);
    expect(start(robot, 3).after(3500).get('wheel_in_gripper')).toBe(0);
  });

  test('a wheel without air is lost, which is a fault', () => {
    const robot = start(permitted(), 1).after(3000).around({ 'gripper air': 0 }).after(50);
    expect([robot.get('fault'), robot.get('wheel_in_gripper')]).toEqual([1, 0]);
    expect(robot.set({ fault_reset: true }).after(50).get('fault')).toBe(0);
  });

  test('a program that there is not is a fault', () => {
    expect(start(permitted(), 77).get('fault')).toBe(1);
  });
});

describe('vision sensor', () => {
  const online = () => new Trial('v1').set({ online_request: true }).after(50);
  const trigger = (camera: Trial) => camera.set({ trigger: true }).after(20);

  test('is triggered while it is ready, takes its time, and has a result until it is acknowledged', () => {
    const camera = trigger(online());
    expect([camera.get('exposing'), camera.get('ready'), camera.get('trigger_acknowledge')]).toEqual([
      1, 0, 1,
    ]);
    camera.after(60);
    expect([camera.get('exposing'), camera.get('busy'), camera.get('result_valid')]).toEqual([0, 1, 0]);
    camera.after(300).set({ trigger: false });
    expect([camera.get('result_valid'), camera.get('pass') + camera.get('fail')]).toEqual([1, 1]);
    expect(camera.get('trigger_count')).toBe(1);
    camera.set({ acknowledge: true }).after(20);
    expect([camera.get('result_valid'), camera.get('ready')]).toEqual([0, 1]);
  });

  test('a result that nobody acknowledges is over after its time', () => {
    const camera = trigger(online()).after(400);
    expect(camera.get('result_valid')).toBe(1);
    expect(camera.after(2000).get('result_valid')).toBe(0);
  });

  test('a trigger that stays set triggers once', () => {
    expect(trigger(online()).after(6000).get('trigger_count')).toBe(1);
  });

  test('a program without inspection says neither pass nor fail', () => {
    const camera = online().set({ next_program: 20, change_program: true }).after(100);
    expect([camera.get('program_changing'), camera.get('ready')]).toEqual([1, 0]);
    trigger(camera.after(700)).after(400);
    expect(camera.get('program_number')).toBe(20);
    expect([camera.get('result_valid'), camera.get('pass'), camera.get('fail')]).toEqual([1, 0, 0]);
  });

  test('no wheel, no light: no verdict, and an error that says why', () => {
    const missing = trigger(online().around({ part: 0 })).after(400);
    expect([missing.get('error_code'), missing.get('pass'), missing.get('fail')]).toEqual([7, 0, 0]);
    expect(trigger(online().fault('dark')).after(400).get('error_code')).toBe(3);
  });
});

describe('light curtain', () => {
  /** A wheel of 125 mm that lies 40 mm above the floor of the car. */
  const wheelAt = (lift: number) => ({ 'object position': lift + 40 - 600, 'object size': 125 });

  test.each([
    [0, 0xffff, 0],
    // Lowest beam at 600 mm, one every 20 mm; the wheel stands from 40 to 165 mm above the car.
    [600, 0xffff & ~0b1_1111_1100, 140],
    [860, 0xffff & ~(1 << 15), 20],
  ])('with the car at %i mm', (liftHeight, beams, size) => {
    const curtain = new Trial('k1').around(wheelAt(liftHeight)).after(20);
    expect(curtain.get('beams')).toBe(beams);
    expect(curtain.get('object_size')).toBe(size);
    expect(curtain.get('gate_clear')).toBe(size === 0 ? 1 : 0);
  });

  test('an interruption asks for an acknowledgement', () => {
    const curtain = new Trial('k1').around(wheelAt(650)).after(20).around(wheelAt(0)).after(20);
    expect([curtain.get('restart_wanted'), curtain.get('gate_clear')]).toEqual([1, 0]);
    expect(curtain.set({ acknowledge: true }).after(20).get('gate_clear')).toBe(1);
  });

  test('a misaligned beam looks like a thing in the way', () => {
    const curtain = new Trial('k1').fault('misaligned').after(20);
    expect([curtain.get('object_size'), curtain.get('curtain_ok')]).toEqual([20, 0]);
  });
});

describe('valve terminal', () => {
  test('a valve takes its time to switch, and needs air to', () => {
    const valves = new Trial('q1').set({ gripper_close: true }).after(30);
    expect(valves.get('gripper_close_on')).toBe(0);
    expect(valves.after(20).get('gripper_close_on')).toBe(1);
    const airless = new Trial('q1').fault('unsupplied').after(2000).set({ gripper_close: true }).after(200);
    expect([airless.get('pressure_ok'), airless.get('gripper_close_on')]).toEqual([0, 0]);
  });

  test('without a command the springs bring the valves back', () => {
    expect(new Trial('q1').set({ blow_off: true }).after(100).lost().after(100).get('blow_off_on')).toBe(0);
  });
});

describe('weigher', () => {
  const warm = () => new Trial('b1').after(3500);
  test('settles, and publishes magnitude and sign apart', () => {
    const scale = warm().around({ load: 6.4 });
    expect(scale.after(200).get('still')).toBe(0);
    expect(scale.after(3000).get('gross_1')).toBeCloseTo(6.4, 1);
    expect(scale.get('still')).toBe(1);
    scale.set({ command: 21 }).after(50).around({ load: 0 }).after(3000);
    expect(scale.get('net_1')).toBeCloseTo(-6.4, 1);
    expect([scale.get('net_1_negative'), scale.get('gross_1_negative')]).toEqual([1, 0]);
  });

  test('obeys a command code once, and again only after a zero', () => {
    const scale = warm().around({ load: 2 }).after(3000).set({ command: 21 }).after(50);
    expect(scale.get('exchange')).toBe(1);
    scale.around({ load: 5 }).after(3000).set({ command: 21 }).after(50);
    expect([scale.get('exchange'), Math.round(scale.get('net_1'))]).toEqual([1, 3]);
    scale.set({ command: 0 }).after(50).set({ command: 21 }).after(50);
    expect([scale.get('exchange'), Math.round(scale.get('net_1'))]).toEqual([2, 0]);
  });

  test('a broken cell is overload, and not to be used', () => {
    const scale = warm().fault('cell-broken').after(3000);
    expect([scale.get('overload'), scale.get('weight_ok')]).toEqual([1, 0]);
  });
});

describe('marker', () => {
  const ready = () => new Trial('p1').set({ format_number: 2, sequence: 41, copies: 1 }).after(50);
  test('prints when the sequence number rises, and says so with the same number', () => {
    const marker = ready();
    expect(marker.after(2000).get('printing')).toBe(0);
    marker.set({ sequence: 42 }).after(50);
    expect([marker.get('printing'), marker.get('printed_sequence')]).toEqual([1, 0]);
    marker.after(1000);
    expect([marker.get('ready'), marker.get('printed_sequence')]).toEqual([1, 42]);
  });

  test('a number that falls prints nothing', () => {
    expect(ready().set({ sequence: 40 }).after(100).get('printing')).toBe(0);
  });

  test('the count runs over at 65535', () => {
    const marker = new Trial('p1').set({ format_number: 1, sequence: 65_535 }).after(50).set({ sequence: 0 });
    expect(marker.after(50).get('printing')).toBe(1);
  });

  test('a format that there is not, and an open door, are errors', () => {
    expect(ready().set({ format_number: 4, sequence: 42 }).after(50).get('error_code')).toBe(4);
    const open = ready().fault('open').set({ sequence: 42 }).after(100);
    expect([open.get('error_code'), open.get('printing')]).toEqual([9, 0]);
    expect(open.fault('open', false).set({ clear_error: true }).after(50).get('ready')).toBe(1);
  });
});

describe('soft starter', () => {
  test('ramps the voltage from 30 %, then runs at full', () => {
    const pump = new Trial('m2').set({ start: true, ramp_up: 2 }).after(500);
    expect(pump.get('ramping')).toBe(1);
    expect(pump.get('motor_voltage')).toBeGreaterThan(120);
    expect(pump.get('motor_voltage')).toBeLessThan(250);
    expect(pump.after(4000).get('at_full_voltage')).toBe(1);
    expect(pump.get('motor_speed')).toBeGreaterThan(1300);
  });

  test('stops by itself when the controller is lost, and wants a reset and a fresh start', () => {
    const pump = new Trial('m2').set({ start: true }).after(3000).lost().after(100);
    expect([pump.get('running'), pump.get('fault_code')]).toEqual([0, 33]);
    pump.lost(true).set({ fault_reset: true }).after(500);
    expect([pump.get('fault_code'), pump.get('running')]).toEqual([0, 0]);
    expect(pump.set({ start: false }).after(20).set({ start: true }).after(100).get('running')).toBe(1);
  });

  test('a dry pump trips after a while', () => {
    const pump = new Trial('m2').fault('unloaded').set({ start: true, ramp_up: 1 }).after(12_000);
    expect(pump.get('fault_code')).toBe(17);
  });
});

describe('IO-Link master', () => {
  const awake = () => new Trial('g1').after(600);
  const lights = (trial: Trial) =>
    trial.behaviour.lights!(trial.state, {
      ...{ connections: 1, timedOut: false, conflict: false, linkUp: true, run: true, powered: true },
      ...{ address: '192.168.40.34', majorRevision: 2, minorRevision: 1 },
    });

  test('the valve follows its order, a sensor what the machine has it measure', () => {
    const hub = awake().around({ 'measured 1': 2.5 }).set({ valve_order: 80 }).after(3000);
    expect(hub.get('valve_position')).toBeCloseTo(80, 0);
    expect(hub.get('brine_pressure')).toBeCloseTo(2.5, 2);
  });

  test('its settings are those of the factory, until somebody writes others', () => {
    const hub = awake();
    const settings = hub.points.find((p) => p.use === 'configuration')!.bytes;
    // Registers 4000 to 4003: three ports in IO-Link mode and a switch; power of all four, one bit each.
    expect([...settings.subarray(0, 10)]).toEqual([0, 1, 0, 1, 0, 1, 0, 2, 0, 0b1111]);
    settings[3] = 2;
    expect([hub.after(20).get('port_2_valid'), hub.get('port_2_mode')]).toEqual([0, 2]);
    expect(lights(hub)[1]).toMatchObject({ colour: 'amber', means: 'not in IO-Link mode' });
  });

  test.each([
    ['port-power', 'off', 'no load power'],
    ['port-mode', 'amber', 'not in IO-Link mode'],
  ])('%s: process data void, the valve stays where it is, the light says why', (id, colour, means) => {
    const hub = awake().set({ valve_order: 50 }).after(3000).fault(id).set({ valve_order: 100 }).after(3000);
    expect([hub.get('port_2_valid'), hub.get('valve_position')]).toEqual([0, 0]);
    expect((hub.state as { ports: { value: number }[] }).ports[1]!.value).toBeCloseTo(50, 0);
    expect(lights(hub)[1]).toMatchObject({ name: 'port 2', colour, means });
    hub.fault(id, false).after(3000);
    expect([hub.get('port_2_valid'), Math.round(hub.get('valve_position'))]).toEqual([1, 100]);
  });

  test('a port says what its device does', () => {
    expect(lights(awake())[0]).toMatchObject({ pattern: 'steady', means: 'the device talks', when: 'talks' });
    expect(lights(awake())[3]).toMatchObject({ pattern: 'steady', means: 'switched input' });
    expect(lights(new Trial('g1').after(50))[0]).toMatchObject({
      ...{ pattern: 'flashing', means: 'no device talks', when: 'silent' },
    });
  });
});

describe('process I/O', () => {
  const heated = () => new Trial('u1').set({ heater: true, heater_level: 100 }).after(200);

  test('an idle controller, and one that is lost, drop its outputs', () => {
    expect(heated().get('heater_on')).toBe(1);
    expect(heated().idle().after(200).get('heater_on')).toBe(0);
    expect(heated().lost().after(200).get('heater_on')).toBe(0);
  });

  test('its configuration can make it hold them instead, and sets the filter', () => {
    const module = new Trial('u1');
    // 500 ms, and bit 16.
    module.configure([0xf4, 0x01, 0x01, 0x00]);
    module.set({ heater: true }).after(200);
    expect(module.idle().after(200).get('heater_on')).toBe(1);
    module.around({ 'measured 1': 0 }).after(20).around({ 'measured 1': 10 });
    // 10 × (1 − 1/e) after one time constant.
    expect(module.after(500).get('room_temperature')).toBeCloseTo(6.32, 1);
  });

  test('configuration data set the parameter that is for the same; what is written last counts', () => {
    const module = new Trial('u1').configure([0xe8, 0x03, 0x00, 0x00]);
    const [filter] = module.parameters.all;
    expect(filter!.value).toBe(1000);
    expect(filter!.write(Uint8Array.of(200, 0))).toBeUndefined();
    module.around({ 'measured 1': 0 }).after(20).around({ 'measured 1': 10 });
    // 10 × (1 − 1/e) after one time constant of 200 ms.
    expect(module.after(200).get('room_temperature')).toBeCloseTo(6.32, 1);
  });

  test('calibration is locked until the key word stands there, and shifts what is measured', () => {
    const module = new Trial('u1').around({ 'measured 1': 20 }).after(20);
    const [, key, calibration] = module.parameters.all;
    expect(calibration!.write(Uint8Array.of(150, 0))).toBe('locked');
    expect(key!.write(Uint8Array.of(0x45, 0x4b))).toBeUndefined();
    expect([module.parameters.unlocked, calibration!.write(Uint8Array.of(150, 0))]).toEqual([
      true,
      undefined,
    ]);
    expect(module.after(20).get('room_temperature')).toBeCloseTo(21.5, 2);
  });
});
