import { Controller, EthernetIP, IO } from 'st-ethernet-ip';
import { describe, expect, test } from 'vitest';
import { climateSeen, climateStandIn, until } from '../../testBench.js';
import { scapyAt } from '../../testScapy.js';

/** Parties that are none of ours against the climate stand-in: a library of the npm registry, and scapy's dissector. */
const address = '127.99.40.71';
const controller = '127.99.40.1';

const standIn = climateStandIn();

describe('a client library of the npm registry', () => {
  /** Sends a request as the library builds it; the library cuts and reads the answer. */
  async function ask(service: number, path: number[], data = Buffer.alloc(0)) {
    const client = new EthernetIP.ENIP();
    await client.connect(address, 2000);
    const answered = new Promise<Buffer>((resolve) =>
      client.once('SendRRData Received', (items: { TypeID: number; data: Buffer }[]) =>
        resolve(items.find((i) => i.TypeID === 0xb2)!.data),
      ),
    );
    const { MessageRouter } = EthernetIP.CIP;
    client.write_cip(MessageRouter.build(service, Buffer.from(path), data));
    const answer = MessageRouter.parse(await answered);
    client.destroy();
    return answer;
  }

  test('reads attributes, one and all', async () => {
    const vendor = await ask(0x0e, [0x20, 1, 0x24, 1, 0x30, 1]);
    expect(vendor.generalStatusCode).toBe(0);
    expect(vendor.data.readUInt16LE(0)).toBe(65_013);
    const all = await ask(0x01, [0x20, 1, 0x24, 1]);
    expect(all.data.subarray(15).toString('latin1')).toBe('Murmel PX-8 process I/O');
    expect(all.data.readUInt32LE(10)).toBe(0x12345678);
  });

  test('is refused what is not there, with the code of the standard', async () => {
    expect((await ask(0x0e, [0x20, 0x64, 0x24, 1, 0x30, 1])).generalStatusCode).toBe(0x05);
    expect((await ask(0x0e, [0x20, 1, 0x24, 1, 0x30, 99])).generalStatusCode).toBe(0x14);
    expect((await ask(0x10, [0x20, 1, 0x24, 1, 0x30, 1], Buffer.alloc(2))).generalStatusCode).toBe(0x0e);
  });

  // It waits for the answer in the name of the request that travels inside, and gives up after 2 s on any other.
  test.each([
    ['wrapped in Unconnected_Send, with a way to slot 0', false, 0],
    ['over a class 3 connection', true, Buffer.alloc(0)],
  ])('reads the identity %s', async (_says, connected, way) => {
    const client = new Controller(connected);
    client.timeout_sp = 2000;
    await client.connect(address, way, false);
    await client.readControllerProps();
    expect(client.properties).toMatchObject({ name: 'Murmel PX-8 process I/O', serial_number: 0x12345678 });
    await client.disconnect();
  });

  test('holds a class 1 connection: its outputs act, the feedback comes', async () => {
    const scanner = new IO.Scanner(2222, controller) as {
      socket: { close: () => void };
      addConnection: (
        config: object,
        rpi: number,
        address: string,
      ) => {
        connected: boolean;
        inputData: Buffer;
        outputData: Buffer;
        run: boolean;
        tcpController: { destroy: () => void };
      };
    };
    const link = scanner.addConnection(
      {
        configInstance: { assembly: 150, size: 0 },
        outputInstance: { assembly: 120, size: 8 },
        inputInstance: { assembly: 110, size: 12 },
      },
      20,
      address,
    );
    await until(() => link.inputData.some((b) => b !== 0));
    // Heater and fan on, heater at 50 %.
    link.outputData = Buffer.from([0x05, 0, 0x98, 0x3a, 0, 0, 0, 0]);
    const seen = () => climateSeen(standIn());
    await until(() => seen().heaterOn && seen().fanOn);
    await until(() => Math.abs(seen().heaterLevel - 50) < 0.1);
    await until(() => (link.inputData[0]! & 5) === 5);
    link.run = false;
    link.tcpController.destroy();
    await until(() => !seen().heaterOn);
    scanner.socket.close();
  });
});

describe('requests that scapy builds by hand', () => {
  const scapy = (body: string) => scapyAt(address, body);

  test('sessions, list commands and requests, as scapy reads the answers', async () => {
    const lines = await scapy(`
print(read(ask(head(0x6f, b"", 99)))[0])
status, session, _ = read(register()); print(status, session != 0)
print(*request(session, bytes([0x0e, 3, 0x20, 1, 0x24, 1, 0x30, 3])))
print(*request(session, bytes([0x0e, 4, 0x20, 1, 0x25, 0, 1, 0, 0x30, 3])))
status, _, body = read(ask(head(0x63)))
identity = list(struct.unpack("<HHHBBHI", body[24:38]))
# Bits 0 and 4 to 7 of the status: whether whoever was connected before has gone yet, or was lost.
identity[5] &= 0xff0e
print(status, *struct.unpack("<HH", body[:4]), *identity)
status, _, body = read(ask(head(0x04))); print(status, body[10:24].decode())
status, _, body = read(ask(head(0x64))); print(status, body)
print(read(ask(head(0x77)))[0])`);
    expect(lines).toEqual([
      '100',
      '0 True',
      // Answer to service 0E, status 0, product code 412 = 16#019C; once more with a 16-bit instance.
      "0 b'\\x8e\\x00\\x00\\x00\\x9c\\x01'",
      "0 b'\\x8e\\x00\\x00\\x00\\x9c\\x01'",
      `0 1 12 65013 12 412 3 4 0 ${0x12345678}`,
      '0 Communications',
      "0 b'\\x00\\x00'",
      '1',
    ]);
  });

  test('ListIdentity by unicast and by broadcast over UDP', async () => {
    const lines = await scapy(`
def listed(to):
    u = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    u.setsockopt(socket.SOL_SOCKET, socket.SO_BROADCAST, 1)
    u.settimeout(2); u.bind(("127.99.40.9", 0))
    u.sendto(head(0x63), (to, 44818))
    data, sender = u.recvfrom(2048)
    print(sender[0], read(data)[0], struct.unpack("<H", data[24+28:24+30])[0])
listed(address)
listed("127.255.255.255")`);
    expect(lines).toEqual([`${address} 0 412`, `${address} 0 412`]);
  });
});
