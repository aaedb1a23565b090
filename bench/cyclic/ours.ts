import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { readCellFile, type Device, type EthernetIpLink } from '@fadenkreuz/core';
import { noTap } from '../../packages/field/src/capture/tap.js';
import { CyclicLink } from '../../packages/field/src/protocols/ethernetIp/cyclicLink.js';
import { EthernetIpOriginator } from '../../packages/field/src/protocols/ethernetIp/originator.js';
import { openingGate } from '../../packages/field/src/protocols/runningLink.js';
import { Schedule } from '../../packages/field/src/timing/schedule.js';
import { StandIn } from '../../packages/field/src/standIns/standIn.js';
import { onlyLoopback } from '../../packages/field/src/wire/reach.js';
import { perStandIn } from './sides.js';
import { Deviations, intervalMs, report, warmUpMs, type Side } from './measure.js';

/**
 * Our side of the measurement: stand-ins of the climate module in one process, N connections to them in the other, each
 * way every 10 ms. PER_STAND_IN=1 makes every connection an exclusive owner of a stand-in of its own.
 *
 *   ours.ts SIDE COUNT SECONDS
 */
const [, , side, countText, secondsText] = process.argv as [string, string, Side, string, string];
const count = Number(countText);
const seconds = Number(secondsText);
const localAddress = '127.61.0.1';

const model = readCellFile(JSON.stringify(demo)).devices.find((d) => d.id === 'u1')!;
const devices = Array.from({ length: count }, (_, i): Device => {
  const n = Math.floor(i / perStandIn);
  const owner = i % perStandIn === 0;
  const link = structuredClone(model.links[0]!);
  if (!owner) {
    link.connection = 'input-only';
    Object.assign(link.command, { instance: 198, size: 0, fields: [] });
  }
  const times = {
    commandRpi: intervalMs * 1000,
    feedbackRpi: intervalMs * 1000,
    timeoutMultiplier: 64 as const,
  };
  return {
    ...model,
    id: `d${i}`,
    address: `10.61.${1 + Math.floor(n / 200)}.${1 + (n % 200)}`,
    links: [{ ...link, ...times, id: `l${i}` }],
  };
});
const schedule = new Schedule();
const deviations = new Deviations(0, seconds);

if (side === 'target') {
  const standIns = devices
    .filter((_, i) => i % perStandIn === 0)
    .map((device) => new StandIn(device, { schedule }));
  for (const standIn of standIns) await standIn.open();
  process.stdin.once('data', () => {
    deviations.begin();
    // It tells its share of the CPU when the originator has done, and ends then.
    process.stdin.once('data', () => {
      report(side, deviations, 0);
      setTimeout(() => process.exit(0), 200);
    });
  });
} else {
  const originator = new EthernetIpOriginator({
    ...{ localAddress, schedule, tap: noTap, reach: onlyLoopback, run: () => true, opening: openingGate() },
  });
  await originator.open(localAddress);
  const links = devices.map((device) => {
    const address = `127.${device.address.split('.').slice(1).join('.')}`;
    return originator.link({
      ...{ device, link: device.links[0] as EthernetIpLink, localAddress },
      end: { on: 'ip', address },
    }) as CyclicLink;
  });
  schedule.every(20, (now) => links.forEach((link) => link.watch(now)), { patient: true });
  process.stdin.once('data', () => {
    links.forEach((link) => link.start());
    const startedAt = performance.now();
    const wait = setInterval(() => {
      const all = links.every((l) => l.state === 'open');
      if (!all && performance.now() - startedAt < 20_000) return;
      clearInterval(wait);
      setTimeout(measure, warmUpMs);
    }, 50);
    const measure = () => {
      links.forEach((l) => (l.counts.timeouts = 0));
      const before = links.map((l) => l.counts.received);
      deviations.begin();
      setTimeout(() => {
        const now = performance.now();
        const cpu = deviations.cpu();
        // The links keep the intervals themselves, as they do for the bench's view.
        links.forEach((l, i) => deviations.take(l.intervals.last(l.counts.received - before[i]!), now));
        const timedOut = links.filter((l) => l.counts.timeouts > 0 || l.state !== 'open').length;
        report(side, deviations, timedOut, cpu);
        process.exit(0);
      }, seconds * 1000);
    };
  });
}
process.stdout.write('ready\n');
