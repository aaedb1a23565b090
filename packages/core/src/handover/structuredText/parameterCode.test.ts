import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { describe, expect, test } from 'vitest';
import { readCellFile } from '../../cell/cellFile.js';
import type { Cell } from '../../cell/model.js';
import { parameterCode } from './parameterCode.js';
import { blockInstance } from './testInterpreter.js';
import type { Scalar } from './testValues.js';

const cell = readCellFile(JSON.stringify(demo));
/** The demo with these planned, by device and code. */
const planned = (values: Record<string, Record<string, string>>): Cell => ({
  ...cell,
  devices: cell.devices.map((device) => ({
    ...device,
    description: {
      ...device.description,
      parameters: device.description.parameters.map((p) => ({
        ...p,
        planned: values[device.name]?.[p.code] ?? null,
      })),
    },
  })),
});

/** A controller with a message call that answers after some scans, and a device that keeps what it is told. */
class Controller {
  readonly device = new Map<string, Scalar[]>();
  readonly requests: string[] = [];
  /** What the device makes of a value; undefined: it refuses. */
  takes: (place: string, value: Scalar[]) => Scalar[] | undefined = (_place, value) => value;
  private waits = 0;
  private answered: { ready?: boolean; failed?: boolean; status?: bigint; answer?: Scalar[] } = {};
  private out: Record<string, Scalar> = {};

  constructor(
    private readonly call: ReturnType<typeof blockInstance>,
    private readonly place: (out: Record<string, Scalar>) => string,
    private readonly room: number,
  ) {}

  scan(execute: boolean): Record<string, Scalar> {
    const { ready = false, failed = false, status = 0n } = this.answered;
    const answer = this.answered.answer ?? Array.from({ length: this.room }, () => 0n);
    this.out = this.call({ execute, ready, failed, status, answer });
    this.transport();
    return this.out;
  }

  private transport(): void {
    if (this.out['send'] !== true) {
      this.answered = {};
      this.waits = 2;
      return;
    }
    if (this.answered.ready || this.answered.failed) return;
    this.waits -= 1;
    if (this.waits > 0) return;
    const size = Number(this.out['request.size']);
    const place = this.place(this.out);
    const value = Array.from({ length: size }, (_, i) => this.out[`request.value[${i}]`]!);
    this.requests.push(
      `${this.out['request.write'] ? 'write' : 'read'} ${place} ${value.map((b) => Number(b).toString(16)).join(' ')}`,
    );
    const padded = (bytes: Scalar[]) => Array.from({ length: this.room }, (_, i) => bytes[i] ?? 0n);
    if (this.out['request.write']) {
      const taken = this.takes(place, value);
      if (taken) this.device.set(place, taken);
      this.answered = taken ? { ready: true } : { failed: true, status: 9n };
    } else this.answered = { ready: true, answer: padded(this.device.get(place) ?? []) };
  }
}

const attributeOf = (out: Record<string, Scalar>) =>
  `${Number(out['request.class_id'])}/${Number(out['request.instance_id'])}/${Number(out['request.attribute_id'])}`;

describe('the written sequencer, run in our interpreter', () => {
  const code = parameterCode(
    planned({ wheel_scale_b1: { 1: '250', 6: '1.0125', 904: '1' }, brine_pump_m2: { P4: '7.5' } }),
  );
  const scale = () => new Controller(blockInstance(code, 'wheel_scale_b1_parameters'), attributeOf, 4);
  const untilEnded = (controller: Controller, scans = 200) => {
    let out = controller.scan(true);
    for (let i = 0; i < scans && out['busy']; i += 1) out = controller.scan(true);
    return out;
  };

  test('it writes one value after the other, with the key around what needs it, and reads each back', () => {
    const controller = scale();
    expect(untilEnded(controller)).toMatchObject({ busy: false, done: true, error: false, send: false });
    // Command 904 acts and is gone: it is not read back.
    expect(controller.requests).toEqual([
      'write 15/1/1 fa 0',
      'read 15/1/1 fa 0',
      'write 15/22/1 b4 14',
      'read 15/22/1 b4 14',
      'write 15/6/1 8d 27 0 0',
      'read 15/6/1 8d 27 0 0',
      'write 15/22/1 0 0',
      'read 15/22/1 0 0',
      'write 15/16/1 1 0',
    ]);
  });

  test('a new edge begins anew; a level does not', () => {
    const controller = scale();
    untilEnded(controller);
    for (let i = 0; i < 20; i += 1) controller.scan(true);
    expect(controller.requests).toHaveLength(9);
    controller.scan(false);
    untilEnded(controller);
    expect(controller.requests).toHaveLength(18);
  });

  test('a refusal ends it with index and status; a value that reads back otherwise with -1', () => {
    const refusing = scale();
    refusing.takes = (place, value) => (place === '15/6/1' ? undefined : value);
    expect(untilEnded(refusing)).toMatchObject({
      busy: false,
      done: false,
      error: true,
      error_index: 2n,
      error_status: 9n,
    });
    const clamping = scale();
    clamping.takes = (_place, value) => [0n, ...value.slice(1)];
    expect(untilEnded(clamping)).toMatchObject({ error: true, error_index: 0n, error_status: -1n });
    expect(clamping.requests).toHaveLength(2);
  });

  test('registers: the table and the address on the wire', () => {
    const pump = new Controller(
      blockInstance(code, 'brine_pump_m2_parameters'),
      (out) => `${Number(out['request.table'])}/${Number(out['request.first_register'])}`,
      4,
    );
    expect(untilEnded(pump)).toMatchObject({ done: true });
    expect(pump.requests[0]).toMatch(/^write \d\/5003 0 4b$/);
  });
});

test('without planned values there is no code; the block for the controller at hand stands once', () => {
  expect(parameterCode(planned({}))).toBe('');
  const code = parameterCode(planned({ brush_belt_m1: { 101: '4.2' }, rack_lift_a1: { '8.1': '1' } }));
  expect(code.match(/FUNCTION_BLOCK parameter_transport/g)).toHaveLength(1);
  expect(code.match(/^FUNCTION_BLOCK/gm)).toHaveLength(3);
  expect(code.match(/^.*101 Acceleration time.*$/m)![0]).toContain('4.2 s, class 15 instance 1 attribute 1');
});
