import { Bench } from '../bench/bench.js';
import { CaptureFile } from '../capture/tap.js';
import { cellOf } from './cellArgument.js';
import { exitCodes, print, wait } from './output.js';

const ms = (value: number | undefined) => (value === undefined ? null : Math.round(value * 1000) / 1000);

/** Runs stand-ins and originator for a time; prints a line per connection at the end. */
export async function runBench(
  argument: string,
  { json = false, for: seconds, capture }: { json?: boolean; for: number; capture?: string },
): Promise<number> {
  const cell = await cellOf(argument);
  const file = capture === undefined ? undefined : new CaptureFile(capture);
  const bench = new Bench(cell, file ? { tap: file } : {});
  await bench.start();
  await wait(seconds);
  const links = bench.report().filter((l) => l.state !== 'no-stand-in');
  await bench.stop();
  await file?.close();
  for (const link of links) {
    const device = cell.devices.find((d) => d.id === link.device)!.name;
    const { state, sent, received, lost, timeouts, reconnects } = link;
    const interval = {
      p50: ms(link.intervals?.p50),
      p99: ms(link.intervals?.p99),
      p999: ms(link.intervals?.p999),
    };
    print(
      json,
      {
        device,
        link: link.link,
        state,
        sent,
        received,
        lost,
        interval,
        timeouts,
        reconnects,
        reason: link.reason,
      },
      `${device}: ${state}; sent ${sent}, received ${received}, lost ${lost}; interval ${interval.p50} ms (99 %: ${interval.p99}, 99.9 %: ${interval.p999}); timeouts ${timeouts}, reconnects ${reconnects}` +
        (link.reason ? `\n  ${link.reason.says} ${link.reason.cure}` : ''),
    );
  }
  return links.every((l) => l.state === 'open' && l.lost === 0) ? exitCodes.done : exitCodes.findings;
}
