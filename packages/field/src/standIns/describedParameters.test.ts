import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { Device } from '@fadenkreuz/core';
import { EthernetIP } from 'st-ethernet-ip';
import { afterEach, describe, expect, test } from 'vitest';
import { Schedule } from '../timing/schedule.js';
import { StandIn } from './standIn.js';
import { bitsFirst, ethernetIpLink, handMade, modbusLink, numbersFirst } from './testKinds.js';

/** Parameters that only a description knows, asked for by parties that are none of ours. */
const parameter = (
  n: number,
  name: string,
  type: string,
  bits: number,
  place: object,
  more: object = {},
) => ({
  ...{ id: `p${n}`, name, type, bits, place },
  ...more,
});
const attribute = (instance: number, attribute: number) => ({
  ...{ way: 'attribute', class: 0x64, instance, attribute },
});
const register = (start: number) => ({ way: 'register', table: 'holding', start });

let standIn: StandIn;
let schedule: Schedule;
afterEach(async () => {
  await standIn.close();
  schedule.stop();
});
async function stand(n: number, link: object, parameters: object[]): Promise<void> {
  const device = handMade('other', '10.99.46', n, link);
  schedule = new Schedule();
  standIn = new StandIn(Device.parse({ ...device, description: { ...device.description, parameters } }), {
    schedule,
  });
  await standIn.open();
}
const bits = [{ is: 'ready' as const }];

describe('attributes of a class of the maker, by a library of the npm registry', () => {
  async function ask(service: number, path: number[], data = Buffer.alloc(0)) {
    const client = new EthernetIP.ENIP();
    await client.connect('127.99.46.10', 2000);
    const answered = new Promise<Buffer>((resolve) =>
      client.once('SendRRData Received', (items: { TypeID: number; data: Buffer }[]) =>
        resolve(items.find((i) => i.TypeID === 0xb2)!.data),
      ),
    );
    const { MessageRouter } = EthernetIP.CIP;
    client.write_cip(MessageRouter.build(service, Buffer.from(path), data));
    const answer = MessageRouter.parse(await answered);
    client.destroy();
    return { status: answer.generalStatusCode, data: answer.data };
  }
  const [get, set] = [0x0e, 0x10];
  const path = (instance: number, attribute: number) => [0x20, 0x64, 0x24, instance, 0x30, attribute];

  test('the value of the factory, another one, and each refusal', async () => {
    await stand(10, ethernetIpLink([bitsFirst([]), bitsFirst(bits)]), [
      parameter(1, 'Ramp', 'UINT', 16, attribute(3, 1), {
        ...{ scale: { factor: '1/10', offset: '0' }, unit: 's', initial: '2.5' },
        limits: { minimum: '0.1', maximum: '600' },
      }),
      parameter(2, 'Hours', 'UDINT', 32, attribute(3, 2), { access: 'read', initial: '70000' }),
    ]);
    // 2.5 s in tenths are 25, low byte first.
    expect(await ask(get, path(3, 1))).toEqual({ status: 0, data: Buffer.from([25, 0]) });
    expect(await ask(get, path(3, 2))).toEqual({ status: 0, data: Buffer.from([0x70, 0x11, 1, 0]) });
    expect((await ask(set, path(3, 1), Buffer.from([0x2c, 1]))).status).toBe(0);
    expect((await ask(get, path(3, 1))).data).toEqual(Buffer.from([0x2c, 1]));
    // CIP Vol. 1, appendix B (from memory): 14 not settable, 9 invalid value, 19 not enough data, 5 and 20 not there.
    expect((await ask(set, path(3, 2), Buffer.alloc(4))).status).toBe(0x0e);
    expect((await ask(set, path(3, 1), Buffer.from([0, 0]))).status).toBe(0x09);
    expect((await ask(set, path(3, 1), Buffer.from([1]))).status).toBe(0x13);
    expect((await ask(get, path(3, 9))).status).toBe(0x14);
    expect((await ask(get, path(4, 1))).status).toBe(0x05);
    expect((await ask(get, path(3, 1))).data).toEqual(Buffer.from([0x2c, 1]));
  });
});

test('registers beside the blocks, by pymodbus', async () => {
  await stand(11, modbusLink([numbersFirst([{ is: 'enable' }]), numbersFirst(bits)]), [
    parameter(1, 'Setpoint', 'DINT', 32, register(900), { initial: '-2', order: 'big' }),
    parameter(2, 'Mode', 'UINT', 16, register(902), {
      ...{ initial: '3', limits: { minimum: '0', maximum: '5' } },
    }),
    parameter(3, 'Serial', 'UINT', 16, register(903), { access: 'read', initial: '4711' }),
  ]);
  const script = `
from pymodbus.client import ModbusTcpClient
c = ModbusTcpClient('127.99.46.11', port=${standIn.port}); c.connect()
read = lambda start, count: c.read_holding_registers(start, count, slave=1)
print(read(900, 4).registers)
print(read(899, 2).isError(), read(903, 2).isError())
print(c.write_registers(900, [0, 70, 5], slave=1).isError(), read(900, 3).registers)
no = lambda answer: answer.exception_code
print(no(c.write_registers(900, [1, 1, 6], slave=1)), no(c.write_register(903, 1, slave=1)), no(c.write_register(950, 1, slave=1)), read(900, 4).registers)
`;
  const { stdout } = await promisify(execFile)('/usr/bin/python3', ['-W', 'ignore', '-c', script]);
  expect(stdout.trim().split('\n')).toEqual([
    '[65535, 65534, 3, 4711]',
    'True True',
    'False [0, 70, 5]',
    // One of them is out of its limits: none is taken. 3 and 2 are common practice, no source; 2 where nothing is.
    '3 2 2 [0, 70, 5, 4711]',
  ]);
});
