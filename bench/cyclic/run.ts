import { median } from './measure.js';
import { measure } from './sides.js';

/**
 * N EtherNet/IP connections at 10 ms each way, beside the bare limit of the same machine, in turn and in one run: only
 * the ratios count.
 *
 *   npm run cyclic -w bench -- [SECONDS] [ROUNDS] [CONNECTIONS…]
 */
const seconds = Number(process.argv[2] ?? 10);
const rounds = Number(process.argv[3] ?? 3);
const chosen = process.argv.slice(4).map(Number);
const counts = chosen.length > 0 ? chosen : [50, 250, 500];

for (const count of counts) {
  const ratios: { delivered: number; p50: number; p99: number; timedOut: number }[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const limit = await measure('limit.js', count, seconds);
    const ours = await measure('ours.js', count, seconds);
    ratios.push({
      delivered: ours.received / limit.received,
      p50: ours.p50 / limit.p50,
      p99: ours.p99 / limit.p99,
      timedOut: ours.timedOut,
    });
    for (const [name, r] of [
      ['limit', limit],
      ['ours', ours],
    ] as const)
      console.log(
        `${count} ${name}: received ${r.received}, deviation p50 ${r.p50.toFixed(3)} ms, p99 ${r.p99.toFixed(2)} ms, timed out ${r.timedOut}, CPU originator ${(r.cpu * 100).toFixed(0)} %, target ${(r.targetCpu * 100).toFixed(0)} %`,
      );
  }
  const of = (key: keyof (typeof ratios)[0]) => median(ratios.map((r) => r[key]));
  console.log(
    `${count}: delivered ${of('delivered').toFixed(3)} × limit, p50 ${of('p50').toFixed(2)} ×, p99 ${of('p99').toFixed(2)} ×, timed out ${Math.max(...ratios.map((r) => r.timedOut))}`,
  );
}
