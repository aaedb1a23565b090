import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { codecOf, ExchangeRun, readCellFile, readyMade, type Device, type Exchange } from '@fadenkreuz/core';

/**
 * 200 exchanges that run at a scan of 10 ms, each with a camera of 344 bytes of its own: what one scan of all of them
 * takes on one core, beside a loop written by hand that looks at the same conditions in the same bytes. In turn, in one
 * run; the devices answer as cameras do.
 *
 *   npm run exchanges -w bench -- [EXCHANGES] [SCANS] [ROUNDS]
 */
const [count = 200, scans = 2000, rounds = 5] = process.argv.slice(2).map(Number);
const scanMs = 10;
/** Scans over which the begins are spread: one handshake. */
const apart = 27;

const cell = readCellFile(JSON.stringify(demo));
const camera = cell.devices.find((d) => d.name === 'rind_camera_v1')!;
const link = camera.links[0]!;
let ids = 0;
const exchange: Exchange = readyMade
  .find(({ id }) => id === 'trigger and result')!
  .make(camera, () => `b${(ids += 1)}`);

/** Where a bit lies: its byte and its mask. */
const bitOf = (side: 'command' | 'feedback', name: string) => {
  const { at } = codecOf(link[side]).signals.find((s) => s.name === name)!;
  return { byte: at >> 3, mask: 1 << (at & 7) };
};
const bits = {
  online: bitOf('command', 'online_request'),
  trigger: bitOf('command', 'trigger'),
  acknowledge: bitOf('command', 'acknowledge'),
  ready: bitOf('feedback', 'ready'),
  taken: bitOf('feedback', 'trigger_acknowledge'),
  valid: bitOf('feedback', 'result_valid'),
  fault: bitOf('feedback', 'system_error'),
  pass: bitOf('feedback', 'pass'),
  fail: bitOf('feedback', 'fail'),
};
type Bit = { byte: number; mask: number };
const is = (bytes: Uint8Array, { byte, mask }: Bit) => (bytes[byte]! & mask) !== 0;
const put = (bytes: Uint8Array, { byte, mask }: Bit, on: boolean) => {
  bytes[byte] = on ? bytes[byte]! | mask : bytes[byte]! & ~mask;
};

interface Images {
  command: Uint8Array;
  feedback: Uint8Array;
  inspecting: number;
}
const images = (): Images => ({
  command: new Uint8Array(link.command.size),
  feedback: new Uint8Array(link.feedback.size),
  inspecting: 0,
});

/** The camera: acknowledges its trigger, has a result after 120 ms, takes it back when it is acknowledged. */
function answer(one: Images): void {
  const { command, feedback } = one;
  const trigger = is(command, bits.trigger);
  if (trigger && !is(feedback, bits.taken)) one.inspecting = 12;
  put(feedback, bits.taken, trigger);
  if (one.inspecting > 0 && (one.inspecting -= 1) === 0) put(feedback, bits.valid, true);
  if (is(command, bits.acknowledge)) put(feedback, bits.valid, false);
  put(feedback, bits.ready, one.inspecting === 0 && !trigger);
  put(feedback, bits.pass, is(feedback, bits.valid));
}

/** The same handshake as somebody would write it for this one layout. */
class ByHand {
  step = 0;
  entered = 0;
  passed = false;
  failed = false;
  done = 0;
  scan(now: number, { command, feedback }: Images): void {
    const elapsed = now - this.entered;
    switch (this.step) {
      case 0:
        if (is(feedback, bits.fault)) return;
        put(command, bits.online, true);
        put(command, bits.trigger, false);
        put(command, bits.acknowledge, false);
        return this.go(1, now);
      case 1:
        if (!is(feedback, bits.ready) || elapsed < 64) return;
        put(command, bits.trigger, true);
        return this.go(2, now);
      case 2:
        if (!is(feedback, bits.taken) || elapsed < 64) return;
        return this.go(3, now);
      case 3:
        if (!is(feedback, bits.valid)) return;
        this.passed = is(feedback, bits.pass);
        this.failed = is(feedback, bits.fail);
        put(command, bits.trigger, false);
        put(command, bits.acknowledge, true);
        return this.go(4, now);
      default:
        if (is(feedback, bits.taken) || is(feedback, bits.valid) || elapsed < 64) return;
        put(command, bits.acknowledge, false);
        this.done += 1;
        this.go(0, now);
    }
  }
  private go(step: number, now: number): void {
    this.step = step;
    this.entered = now;
  }
}

const device: Device = camera;
const made = (one: Images) => new ExchangeRun({ devices: [device] }, exchange, () => one);
const percentile = (values: number[], p: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * p))]!;
const said = (name: string, ms: number[], done: number) =>
  `${name}: a scan of ${count} p50 ${percentile(ms, 0.5).toFixed(3)} ms, p99 ${percentile(ms, 0.99).toFixed(3)} ms; ${done} handshakes`;

for (let round = 0; round < rounds; round += 1) {
  const model = Array.from({ length: count }, () => images());
  const runs = model.map(made);
  let done = 0;
  const modelMs: number[] = [];
  for (let n = 0; n < scans; n += 1) {
    const from = performance.now();
    // Handshakes of many devices do not begin at the same time.
    for (let i = 0; i < count; i += 1) if (n >= i % apart) runs[i]!.scan(n * scanMs);
    modelMs.push(performance.now() - from);
    runs.forEach((run) => {
      if (run.state === 'running') return;
      if (run.state !== 'done') throw new Error(run.failure?.reason);
      done += 1;
      run.again();
    });
    model.forEach(answer);
  }

  const plain = Array.from({ length: count }, () => images());
  const hands = plain.map(() => new ByHand());
  const handMs: number[] = [];
  for (let n = 0; n < scans; n += 1) {
    const from = performance.now();
    for (let i = 0; i < count; i += 1) if (n >= i % apart) hands[i]!.scan(n * scanMs, plain[i]!);
    handMs.push(performance.now() - from);
    plain.forEach(answer);
  }
  console.log(said('by the model', modelMs, done));
  console.log(
    said(
      'by hand',
      handMs,
      hands.reduce((sum, h) => sum + h.done, 0),
    ),
  );
}
