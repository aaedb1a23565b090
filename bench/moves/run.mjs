// How long it takes from when a person lets go of an axis until the command to rest is on the wire, as tshark sees it:
// the button released, and the browser killed, frozen and cut off while the button is held. Start Fadenkreuz with
// `./start --reset-demo` first; it needs tshark and Debian's Chromium, and may capture on the loopback.
//
// URL is the address that the start has printed; TRIALS of each kind, or of one of them.
//
//   node bench/moves/run.mjs [URL] [TRIALS] [KIND]
import { execFileSync, spawn } from 'node:child_process';
import { createRequire } from 'node:module';
import { createInterface } from 'node:readline';
import { setTimeout as sleep } from 'node:timers/promises';
import { launchOptions } from '../../e2e/chromium.mjs';

const { chromium } = createRequire(new URL('../../e2e/package.json', import.meta.url))('@playwright/test');
const [printed = 'http://127.0.0.1:8470', trials = '30', only = ''] = process.argv.slice(2);
const { origin: url, searchParams } = new URL(printed);
const device = 'rack_lift_a1';
const updateMs = 16;
/** ms without a packet that says rest: then it never came. */
const longestMs = 2000;

const asked = async (path, method, body) => {
  const response = await fetch(url + path, {
    ...{ method, body: body && JSON.stringify(body) },
    headers: {
      ...{ 'content-type': 'application/json', origin: url },
      authorization: `Bearer ${searchParams.get('token')}`,
    },
  });
  return response.json();
};
const [{ id: cell }] = await asked('/api/cells', 'GET');
const { cell: stored } = await asked(`/api/cells/${cell}`, 'GET');
const { address } = stored.devices.find((d) => d.name === device);
await asked('/api/bench', 'POST', { cell });
await sleep(4000);

/** Packets to the axis: when, and whether it is told to move. `new_setpoint` is bit 4, `halt` bit 8 of its command. */
const packets = [];
const tshark = spawn('tshark', [
  ...[
    '-i',
    'lo',
    '-l',
    '-Q',
    '-f',
    `udp dst port 2222 and dst host 127.${address.split('.').slice(1).join('.')}`,
  ],
  ...['-T', 'fields', '-e', 'frame.time_epoch', '-e', 'udp.payload'],
]);
createInterface({ input: tshark.stdout }).on('line', (line) => {
  const [at, hex] = line.split('\t');
  const bytes = Buffer.from(hex ?? '', 'hex');
  // Two items of the common packet format: an address, then the data behind sequence count and run/idle header.
  const data = 2 + 4 + bytes.readUInt16LE(4) + 4 + 2 + 4;
  const word = bytes.readUInt16LE(data);
  packets.push({ ms: Number(at) * 1000, rests: (word & 0x100) !== 0 || (word & 0x10) === 0 });
});
await sleep(1500);

async function opened() {
  const server = await chromium.launchServer(launchOptions);
  const browser = await chromium.connect(server.wsEndpoint());
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/?token=${searchParams.get('token')}`);
  await page.goto(`${url}/cells/${cell}/motion?part=hand`);
  await page.getByRole('group', { name: 'device that moves' }).getByRole('button', { name: device }).click();
  return { server, page };
}
const armed = async (page) => {
  const arm = page.getByRole('button', { name: 'Arm', exact: true });
  if (await arm.isVisible()) await arm.click();
  await page.getByRole('button', { name: 'Hold: positive' }).and(page.locator(':enabled')).waitFor();
};
const state = (page) => page.getByRole('status', { name: 'state of the move' });
/** Homes once, and goes back to the begin, so that there is room to move. */
async function ready(page) {
  await armed(page);
  await page.getByRole('button', { name: 'Home', exact: true }).click();
  await state(page).getByText('home: at rest').waitFor({ timeout: 30_000 });
}
async function hold(page, tries = 5) {
  await armed(page);
  await page.getByRole('button', { name: 'Hold: positive' }).hover();
  await page.mouse.down();
  const moves = await state(page)
    .getByText('jog: moves')
    .waitFor({ timeout: 3000 })
    .then(
      () => true,
      () => false,
    );
  if (moves) return sleep(200);
  // A busy computer was not heard for a while: it rests, and is held again.
  await page.mouse.up();
  if (tries === 0) throw new Error('the axis does not move');
  return hold(page, tries - 1);
}
/** ms from `from` until the first packet that says rest. */
async function restAfter(from) {
  for (let waited = 0; waited < longestMs; waited += 20) {
    const first = packets.find(({ ms, rests }) => ms >= from && rests);
    if (first) return first.ms - from;
    await sleep(20);
  }
  return Infinity;
}
/** All processes of a browser. */
function processesOf(pid) {
  const lines = execFileSync('ps', ['-eo', 'pid=,ppid='], { encoding: 'utf8' }).trim().split('\n');
  const pairs = lines.map((l) => l.trim().split(/\s+/).map(Number));
  const all = [pid];
  for (const one of all) all.push(...pairs.filter(([, parent]) => parent === one).map(([own]) => own));
  return all;
}
const signal = (pids, name) => pids.forEach((pid) => process.kill(pid, name));

const kinds = {
  released: { keeps: true, end: ({ page }) => void page.mouse.up() },
  'cut off': {
    keeps: true,
    end: ({ page }) => void page.context().setOffline(true),
    after: async ({ page }) => {
      await page.context().setOffline(false);
      await page.mouse.up();
      await page.reload();
      await page.getByRole('button', { name: device }).first().click();
    },
  },
  killed: { end: ({ server }) => process.kill(server.process().pid, 'SIGKILL') },
  frozen: {
    end: ({ pids }) => signal(pids, 'SIGSTOP'),
    after: ({ pids }) => signal(pids, 'SIGKILL'),
  },
};

for (const [name, { keeps, end, after }] of Object.entries(kinds)) {
  if (only && only !== name) continue;
  const took = [];
  let one;
  for (let n = 0; n < Number(trials); n += 1) {
    one ??= await opened();
    await ready(one.page);
    await hold(one.page);
    const pids = processesOf(one.server.process().pid);
    const from = performance.timeOrigin + performance.now();
    end({ ...one, pids });
    took.push(await restAfter(from));
    await after?.({ ...one, pids });
    if (keeps) continue;
    one = undefined;
    // Its permission goes with it.
    await sleep(2500);
  }
  await one?.server.close();
  took.sort((a, b) => a - b);
  const at = (share) => took[Math.min(took.length - 1, Math.floor(share * took.length))].toFixed(1);
  const within = took.filter((ms) => ms <= 2 * updateMs).length;
  console.log(
    `${name}: ${took.length} trials, p50 ${at(0.5)} ms, p99 ${at(0.99)} ms, at most ${took.at(-1).toFixed(1)} ms;`,
    `${within} within two updates (${2 * updateMs} ms)`,
  );
}
tshark.kill('SIGINT');
await asked('/api/bench', 'DELETE');
