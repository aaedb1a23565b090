import { encapsulation as enip } from '@fadenkreuz/core/cip';
import { Schedule } from '../schedule.js';
import { StandIn } from '../standIns/standIn.js';
import { cellOf } from './cellArgument.js';
import { exitCodes, print, wait } from './output.js';

/** Runs the stand-ins of a cell; prints a line per endpoint when it is ready. */
export async function runStandIns(
  argument: string,
  { json = false, for: seconds }: { json?: boolean; for?: number },
): Promise<number> {
  const cell = await cellOf(argument);
  const schedule = new Schedule();
  const standIns: StandIn[] = [];
  try {
    for (const device of cell.devices) {
      if (!device.standIn) {
        if (!json) print(json, {}, `${device.name}: no stand-in yet`);
        continue;
      }
      const standIn = new StandIn(device, { schedule });
      await standIn.open();
      standIns.push(standIn);
      const instances = standIn.assemblies.map(({ instance, use, size }) => ({ instance, use, size }));
      const endpoint = {
        device: device.name,
        protocol: 'ethernet-ip',
        address: standIn.address,
        port: enip.explicitPort,
      };
      const sizes = instances.map((i) => `${i.use} ${i.instance}: ${i.size} bytes`).join(', ');
      print(
        json,
        { ...endpoint, ioPort: enip.ioPort, instances },
        `${device.name} stands at ${endpoint.address}:${endpoint.port} (${sizes})`,
      );
    }
    await wait(seconds);
  } finally {
    await Promise.all(standIns.map((s) => s.close()));
    schedule.stop();
  }
  return exitCodes.done;
}
