import { faultKey, offerOf } from '@fadenkreuz/core';
import { Schedule } from '../timing/schedule.js';
import { driverOf } from '../protocols/list.js';
import { MachineAround } from '../standIns/machineAround.js';
import { StandIn } from '../standIns/standIn.js';
import { cellOf } from './cellArgument.js';
import { faultOf, type PlannedFault } from './faultArgument.js';
import { exitCodes, print, wait } from './output.js';

/** Runs the stand-ins of a cell; prints a line per endpoint when it is ready. */
export async function runStandIns(
  argument: string,
  {
    json = false,
    for: seconds,
    fault: planned = [],
  }: { json?: boolean; for?: number; fault?: PlannedFault[] },
): Promise<number> {
  const cell = await cellOf(argument);
  const faults = planned.map((plan) => ({ plan, ...faultOf(cell, plan) }));
  const schedule = new Schedule();
  const machine = new MachineAround(cell, schedule);
  const standIns: StandIn[] = [];
  const timers: NodeJS.Timeout[] = [];
  try {
    for (const device of cell.devices) {
      const offer = offerOf(device);
      if (!offer || !driverOf(offer.protocol)) {
        if (!json)
          print(json, {}, `${device.name}: ${offer?.protocol ?? 'its protocol'} is not spoken here yet`);
        continue;
      }
      const standIn = new StandIn(device, { schedule, machine });
      await standIn.open();
      standIns.push(standIn);
      print(json, ...endpointOf(standIn));
    }
    for (const { plan, device, fault } of faults) {
      const standIn = standIns.find((s) => s.device.id === device.id)!;
      timers.push(setTimeout(() => standIn.inject(fault), plan.from * 1000));
      if (plan.to !== undefined)
        timers.push(setTimeout(() => standIn.clear(faultKey(fault)), plan.to * 1000));
    }
    await wait(seconds);
  } finally {
    timers.forEach(clearTimeout);
    await Promise.all(standIns.map((s) => s.close()));
    schedule.stop();
  }
  return exitCodes.done;
}

function endpointOf({ device, protocol, address, port, offered }: StandIn): [object, string] {
  const instances = offered.map(({ number, use, size, registers }) =>
    registers ? { ...registers, count: size / 2, use, size } : { instance: number, use, size },
  );
  const sizes = instances.map((i) =>
    'table' in i
      ? `${i.use}: ${i.table} ${i.start} to ${i.start + i.count - 1}`
      : `${i.use} ${i.instance}: ${i.size} bytes`,
  );
  return [
    { device: device.name, protocol, address, port, ...driverOf(protocol)?.otherPorts, instances },
    `${device.name} is at ${address}:${port}, ${protocol} (${sizes.join(', ')})`,
  ];
}
