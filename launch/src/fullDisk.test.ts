import { spawn } from 'node:child_process';
import { openSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { freePort } from './testDatabase.js';

const root = join(import.meta.dirname, '../..');
const secret = 's'.repeat(32);

/** The part of the application with its log on a device that is always full (Linux, full(4)), and how it ended. */
async function withFullLog(script: string, env: NodeJS.ProcessEnv, asked: string) {
  const full = openSync('/dev/full', 'w');
  const child = spawn(process.execPath, [join(root, script)], {
    stdio: ['ignore', full, full, 'ipc'],
    env: { ...process.env, ...env },
  });
  let ended: number | string | undefined;
  child.once('exit', (code, signal) => (ended = code ?? signal ?? 'gone'));
  await expect.poll(() => fetch(asked).then((r) => r.status), { timeout: 30_000 }).toBeGreaterThan(199);
  // It writes to its log once more, when a request fails.
  await fetch(asked.replace(/\/[^/]*$/, '/nothing-here')).catch(() => undefined);
  await new Promise((resolve) => setTimeout(resolve, 500));
  const alive = ended === undefined && (await fetch(asked).then(() => true));
  child.kill('SIGKILL');
  return { alive, ended };
}

test('a log that cannot be written ends neither web server nor agent', async () => {
  const [web, agent] = [await freePort(), await freePort()];
  const agentEnds = await withFullLog(
    'packages/field/dist/agent.js',
    { AGENT_PORT: String(agent), AGENT_SECRET: secret },
    `http://127.0.0.1:${agent}/bench`,
  );
  expect(agentEnds).toMatchObject({ alive: true, ended: undefined });
  const webEnds = await withFullLog(
    'apps/web/build/index.js',
    {
      ...{ HOST: '127.0.0.1', PORT: String(web), ORIGIN: `http://127.0.0.1:${web}` },
      // Neither database nor agent is there: each request fails, and says so in the log.
      ...{ DATABASE_URL: 'postgresql://127.0.0.1:1/none', AGENT_PORT: '1', AGENT_SECRET: secret },
      FADENKREUZ_TOKEN: secret,
    },
    `http://127.0.0.1:${web}/api/health`,
  );
  expect(webEnds).toMatchObject({ alive: true, ended: undefined });
});
