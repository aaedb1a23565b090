import { median } from './measure.js';
import { measure, perStandIn } from './sides.js';

/**
 * N EtherNet/IP connections at 10 ms each way, beside the bare limit of the same machine, in turn and in one run: only
 * the ratios count. A second limit has as many sockets as there are stand-ins: what these take is no work of ours.
 *
 *   npm run cyclic -w bench -- [SECONDS] [ROUNDS] [CONNECTIONS…]
 */
const seconds = Number(process.argv[2] ?? 10);
const rounds = Number(process.argv[3] ?? 3);
const chosen = process.argv.slice(4).map(Number);
const counts = chosen.length > 0 ? chosen : [50, 250, 500];

for (const count of counts) {
  const ratios: Record<
    'delivered' | 'p50' | 'p99' | 'timedOut' | 'originator' | 'target' | 'manySockets',
    number
  >[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const limit = await measure('limit.js', count, seconds);
    const many = await measure('limit.js', count, seconds, Math.ceil(count / perStandIn));
    const ours = await measure('ours.js', count, seconds);
    ratios.push({
      delivered: ours.received / limit.received,
      p50: ours.p50 / limit.p50,
      p99: ours.p99 / limit.p99,
      timedOut: ours.timedOut,
      originator: ours.cpu / limit.cpu,
      target: ours.targetCpu / limit.targetCpu,
      manySockets: ours.targetCpu / many.targetCpu,
    });
    for (const [name, r] of [
      ['limit', limit],
      ['limit with a socket a stand-in', many],
      ['ours', ours],
    ] as const)
      console.log(
        `${count} ${name}: received ${r.received}, deviation p50 ${r.p50.toFixed(3)} ms, p99 ${r.p99.toFixed(2)} ms, timed out ${r.timedOut}, CPU originator ${(r.cpu * 100).toFixed(0)} %, target ${(r.targetCpu * 100).toFixed(0)} %`,
      );
  }
  const of = (key: keyof (typeof ratios)[0]) => median(ratios.map((r) => r[key]));
  console.log(
    `${count}: delivered ${of('delivered').toFixed(3)} × limit, p50 ${of('p50').toFixed(2)} ×, p99 ${of('p99').toFixed(2)} ×, timed out ${Math.max(...ratios.map((r) => r.timedOut))}; CPU originator ${of('originator').toFixed(2)} ×, target ${of('target').toFixed(2)} ×, ${of('manySockets').toFixed(2)} × that of as many sockets`,
  );
}
