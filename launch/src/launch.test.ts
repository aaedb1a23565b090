import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { chmod, mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { get } from 'node:http';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';

/** The launcher as ./start runs it, built, with a data folder and ports of its own. */
const script = fileURLToPath(new URL('../dist/launch.js', import.meta.url));
// Of this run alone: another one, or an application, may run beside it. Linux gives ports from 32768 to whoever asks.
const port = 20_000 + 3 * (process.pid % 4000);
const base = `http://127.0.0.1:${port}`;
const token = 'f'.repeat(32);
const asked = (path: string, options: RequestInit = {}) =>
  fetch(base + path, {
    ...options,
    headers: { authorization: `Bearer ${token}`, ...(options.headers as Record<string, string>) },
  });

let home: string;
const children: ChildProcess[] = [];
beforeEach(async () => {
  home = await mkdtemp(join('/tmp', 'fadenkreuz-test-'));
  await chmod(home, 0o755);
});
afterEach(async () => {
  for (const child of children.splice(0)) await stop(child, 'SIGTERM');
  await rm(home, { recursive: true, force: true });
});

interface Start {
  child: ChildProcess;
  /** Its output up to the line that says ready or not started. */
  says: Promise<string>;
}
function start(...args: string[]): Start {
  const env = {
    ...process.env,
    FADENKREUZ_DATA: home,
    FADENKREUZ_PORT: String(port),
    FADENKREUZ_TOKEN: token,
  };
  const child = spawn(process.execPath, [script, ...args], { env });
  children.push(child);
  let text = '';
  const says = new Promise<string>((resolve) => {
    const take = (part: Buffer) => {
      text += part.toString();
      if (/ready at|Not started/.test(text)) resolve(text);
    };
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.on('exit', () => resolve(text));
  });
  return { child, says };
}
async function stop(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill(signal);
  await ended;
}
const answers = () =>
  fetch(`${base}/api/health`).then(
    (a) => a.ok,
    () => false,
  );
const demoName = async () =>
  ((await (await asked('/api/cells/ripening-store-3')).json()) as { cell: { name: string } }).cell.name;

/** Requests under another name, or from another page, are refused; the printed address lets a browser in. */
async function refusesStrangers(): Promise<void> {
  const status = await new Promise((resolve) => {
    // fetch does not let a Host header be set.
    get({ host: '127.0.0.1', port, path: '/', headers: { host: 'evil.example' } }, (a) =>
      resolve(a.statusCode),
    );
  });
  expect(status).toBe(421);
  const foreign = await asked('/api/bench', {
    method: 'DELETE',
    headers: { origin: 'http://evil.example' },
  });
  expect(foreign.status).toBe(403);

  // The printed address lets a browser in, once; others on this computer stay outside.
  expect((await fetch(`${base}/api/cells`)).status).toBe(401);
  const first = await fetch(`${base}/?token=${token}`, { redirect: 'manual' });
  expect([first.status, first.headers.get('location')]).toEqual([303, '/']);
  const cookie = first.headers.get('set-cookie')!;
  expect(cookie).toMatch(/HttpOnly; SameSite=Strict/i);
  const page = await fetch(`${base}/api/cells`, { headers: { cookie: cookie.split(';')[0]! } });
  expect(page.status).toBe(200);
  expect((await fetch(`${base}/?token=${'0'.repeat(32)}`, { redirect: 'manual' })).status).toBe(401);

  // No other page holds it in a frame, or asks for it.
  const shown = await asked('/', { headers: { accept: 'text/html' } });
  expect(shown.headers.get('content-security-policy')).toContain("frame-ancestors 'none'");
  expect(shown.headers.get('x-content-type-options')).toBe('nosniff');
  expect(shown.headers.get('referrer-policy')).toBe('no-referrer');
  expect(shown.headers.get('cross-origin-resource-policy')).toBe('same-origin');
  const framed = await asked('/api/bench', { method: 'DELETE', headers: { 'sec-fetch-site': 'cross-site' } });
  expect(framed.status).toBe(403);
}

test('starts, keeps what was edited over a stop and over kill -9, and puts the demo back when asked', async () => {
  const first = start();
  expect(await first.says).toBe(`Fadenkreuz is ready at ${base}/?token=${token} (Ctrl-C ends it)\n`);
  const post = (path: string, body: object) =>
    asked(`/api/cells/ripening-store-3/${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  const made = await post('changes', {
    ...{ id: crypto.randomUUID(), madeOn: 1, known: 1, person: 'test', desk: 'test' },
    edit: { edit: 'cell.set', set: { name: 'Store 4' } },
  });
  expect(made.status).toBe(200);

  // A second one beside it: one line, with the address and the cure.
  const second = await start().says;
  expect(second).toMatch(
    new RegExp(`^Not started: Fadenkreuz runs already at ${base} \\(process \\d+\\)\\. Cure: .*\\n$`),
  );
  expect(await answers()).toBe(true);

  // The terminal closes: everything ends.
  await stop(first.child, 'SIGHUP');
  expect(await answers()).toBe(false);
  await expect(readFile(join(home, 'database/postmaster.pid'))).rejects.toThrow(/ENOENT/);

  const third = start();
  expect(await third.says).toContain('ready');
  expect(await demoName()).toBe('Store 4');
  const kept = await post('snapshots', {
    ...{ id: crypto.randomUUID(), title: 'as commissioned', device: { id: 'm1', name: 'brush_belt_m1' } },
    identity: {
      vendor: 1,
      deviceType: 2,
      productCode: 3,
      majorRevision: 1,
      minorRevision: 4,
      productName: 'x',
    },
    serialNumber: 7,
    values: [{ code: '101', name: 'Acceleration time', place: '', bytes: '2A 00', text: '4.2 s' }],
  });
  expect(kept.status).toBe(200);

  // Launcher and database are killed: the next start ends what they left, and has everything.
  const postmaster = Number((await readFile(join(home, 'database/postmaster.pid'), 'utf8')).split('\n')[0]);
  process.kill(postmaster, 'SIGKILL');
  await stop(third.child, 'SIGKILL');
  // What is left of the old database may still hold its memory: then it is started once more.
  const fourth = start();
  await vi.waitUntil(answers, { timeout: 60_000, interval: 200 });
  expect(await demoName()).toBe('Store 4');
  const snapshots = await asked('/api/cells/ripening-store-3/snapshots');
  expect(await snapshots.json()).toMatchObject([{ title: 'as commissioned', count: 1 }]);
  await stop(fourth.child, 'SIGINT');
  expect(await answers()).toBe(false);

  expect(await start('--reset-demo').says).toContain('ready');
  expect(await demoName()).toBe('Ripening Store 3');
  await refusesStrangers();
});

test('a stop while it starts leaves nothing behind', async () => {
  const { child } = start();
  // The cluster is being started or even made; the servers are not there yet.
  await vi.waitUntil(() => existsSync(join(home, 'database')), { timeout: 30_000 });
  await stop(child, 'SIGINT');
  expect(await answers()).toBe(false);
  expect(await start().says).toContain('ready');
});

test.each([0, 1, 2])(
  'port %i of the three is taken: one line that says which and what to do',
  async (offset) => {
    const other = createServer();
    await new Promise<void>((resolve) => other.listen(port + offset, '127.0.0.1', resolve));
    const says = await start().says;
    await new Promise((resolve) => other.close(resolve));
    expect(says).toMatch(
      new RegExp(`^Not started: port ${port + offset}, for .*, is taken .* Cure: .*FADENKREUZ_PORT=.*\\n$`),
    );
  },
);

test('an incomplete database: one line that says where and what to do', async () => {
  await mkdir(join(home, 'database'));
  await writeFile(join(home, 'database/PG_VERSION'), '15\n');
  expect(await start().says).toMatch(
    /^Not started: the database folder .* is incomplete\. Cure: .*rm -r.*\n$/,
  );
});

test('an option that nobody knows', async () => {
  expect(await start('--fly').says).toMatch(/^Not started: --fly is not known\. Cure: .*--reset-demo.*\n$/);
});
