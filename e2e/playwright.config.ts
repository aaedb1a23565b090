import { randomBytes } from 'node:crypto';
import { mkdtempSync, chmodSync } from 'node:fs';
import { defineConfig } from '@playwright/test';
import { launchOptions } from './chromium.mjs';
import type { Needs } from './page.js';

// The data folder is made once, by the runner; its workers read the same variable.
const home = (process.env['FADENKREUZ_DATA'] ??= mkdtempSync('/tmp/fadenkreuz-e2e-'));
chmodSync(home, 0o755);
// Of this run alone: another one, or an application, may run beside it. Its workers read the same variable.
const port = Number((process.env['FADENKREUZ_PORT'] ??= String(20_000 + 3 * (process.pid % 4000))));
const baseURL = `http://127.0.0.1:${port}`;
const token = (process.env['FADENKREUZ_TOKEN'] ??= randomBytes(16).toString('hex'));
/** What the first page of the printed address leaves in a browser. */
const letIn = {
  ...{ name: `fadenkreuz-${port}`, value: token, domain: '127.0.0.1', path: '/', expires: -1 },
  ...{ httpOnly: true, secure: false, sameSite: 'Strict' as const },
};

export default defineConfig<Needs>({
  projects: [
    // Each test has a cell of its own; while one waits, another works.
    { name: 'desk', testDir: 'desk', workers: 2, fullyParallel: true },
    // There is one list of cells, and one application to be killed.
    { name: 'application', testDir: 'application', workers: 1, dependencies: ['desk'] },
    // There is one bench; its devices have the addresses that the tests of the field use, too.
    { name: 'bench', testDir: 'bench', workers: 1, use: { usesBench: true }, dependencies: ['application'] },
  ],
  workers: 2,
  // docs/decisions/0028-a-second-try.md
  retries: 1,
  // A shared machine may halt for seconds; a limit is there to end what hangs.
  timeout: 600_000,
  expect: { timeout: 150_000 },
  outputDir: '../test-results/playwright',
  use: {
    baseURL,
    storageState: { cookies: [letIn], origins: [] },
    viewport: { width: 1280, height: 800 },
    colorScheme: 'light',
    launchOptions,
  },
  webServer: {
    command: 'node --enable-source-maps ../launch/dist/launch.js',
    url: `${baseURL}/api/health`,
    // Requests that follow each other after minutes find their connection open.
    env: { FADENKREUZ_DATA: home, FADENKREUZ_PORT: String(port), KEEP_ALIVE_TIMEOUT: '600' },
    gracefulShutdown: { signal: 'SIGTERM', timeout: 15_000 },
    stdout: 'pipe',
    timeout: 180_000,
  },
});
