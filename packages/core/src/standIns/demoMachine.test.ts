import { describe, expect, test } from 'vitest';
import { identifierOf } from '../entries/identifiers.js';
import { quantitiesOf } from '../devices/surroundings.js';
import { Machine } from '../machine/machine.js';
import { demoCell, Trial } from './testTrial.js';

/** Devices of the demo and the machine around them. */
class Line {
  readonly machine = new Machine(demoCell.machine, demoCell.devices);
  private readonly devices: ReadonlyMap<string, Trial>;

  constructor(...ids: string[]) {
    this.devices = new Map(ids.map((id) => [id, new Trial(id)]));
  }

  of(id: string): Trial {
    return this.devices.get(id)!;
  }

  /** Some time passes. */
  after(ms: number, stepMs = 20): this {
    for (let passed = 0; passed < ms; passed += stepMs) {
      this.machine.step(stepMs / 1000, (id, name) => this.devices.get(id)?.valueOf(name));
      for (const [id, device] of this.devices) {
        const acting = this.machine.actsOn(id);
        const { kind } = demoCell.devices.find((d) => d.id === id)!;
        const met = quantitiesOf({ kind }).flatMap(({ name }) => {
          const value = acting.get(identifierOf(name));
          return value === undefined ? [] : [[name, value] as const];
        });
        device.around(Object.fromEntries(met)).after(stepMs, stepMs);
      }
    }
    return this;
  }

  quantity(name: string): number | undefined {
    return this.machine.values.get(demoCell.machine.find((row) => row.name === name)!.id);
  }
}

describe('the machine of the demo', () => {
  // 11.6 °C now, 35.6 °C in the long run: 11.6 + 24 × (1 − 1/e) = 26.77 after one time constant of 240 s.
  test('the heater warms the room slowly, and the module measures it', () => {
    const line = new Line('u1');
    line.of('u1').set({ heater: true, heater_level: 100 });
    line.after(240_000, 500);
    expect(line.quantity('room_temperature')).toBeCloseTo(26.77, 1);
    expect(line.of('u1').get('room_temperature')).toBeCloseTo(26.77, 0);
    line.of('u1').set({ heater: false, fan: true, fan_level: 50 });
    // Half of 6 m/s, after eight time constants of 2.5 s.
    expect(line.after(20_000).of('u1').get('air_speed')).toBeCloseTo(3, 2);
  });

  // In the long run 3.2 bar of the pump, less 1.9 bar of the flow through the valve.
  test('pump and valve make the pressure', () => {
    const line = new Line('m2', 'g1');
    line.of('m2').set({ start: true, ramp_up: 1 });
    line.after(10_000);
    expect(line.of('g1').get('brine_pressure')).toBeCloseTo(3.2, 1);
    line.of('g1').set({ valve_order: 100 });
    expect(line.after(5000).of('g1').get('brine_pressure')).toBeCloseTo(1.3, 1);
    // Through the open valve it flows out, 2 mm a second.
    const level = line.of('g1').get('brine_level');
    expect(level - line.after(10_000).of('g1').get('brine_level')).toBeCloseTo(20, -0.5);
  });

  test('the lift carries the wheel past the beams', () => {
    const line = new Line('a1', 'k1').after(100);
    // The car stands at 340 mm: the wheel reaches from 380 to 505 mm, the lowest beam hangs at 600 mm.
    expect(line.of('k1').get('object_size')).toBe(0);
    expect(line.of('a1').get('position_actual')).toBe(340);
    expect(
      line.of('k1').around({ 'object position': 40, 'object size': 125 }).after(20).get('object_size'),
    ).toBe(140);
  });

  test('the robot puts a wheel on the scale, held by the air of the valves', () => {
    const line = new Line('r1', 'q1', 'b1');
    const program = (number: number) => {
      line.of('r1').set({
        servo_on: true,
        hold: true,
        permit_motion: true,
        program_number: number,
        program_start: true,
      });
      line.after(100).of('r1').set({ program_start: false });
      line.after(2200);
    };
    line.of('q1').set({ gripper_close: true });
    line.after(200);
    program(1);
    expect(line.of('r1').get('wheel_in_gripper')).toBe(1);
    program(3);
    expect([line.of('r1').get('wheel_in_gripper'), line.of('r1').get('gripper_closed')]).toEqual([0, 0]);
    expect(line.after(3000).of('b1').get('gross_1')).toBeCloseTo(6.4, 2);
    program(4);
    expect(line.after(3000).of('b1').get('gross_1')).toBeCloseTo(0, 2);
    // Without air it lets go.
    line.of('q1').fault('unsupplied');
    expect(line.after(200).of('r1').get('fault')).toBe(1);
  });
});
