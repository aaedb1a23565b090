import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test as base, expect, type APIRequestContext, type Page } from '@playwright/test';

export const demoFile = readFileSync(new URL('../demo/ripening-store-3.json', import.meta.url), 'utf8');

interface Stored {
  cell: {
    name: string;
    devices: {
      id: string;
      name: string;
      address: string;
      description: { parameters: object[]; lights: object[] };
      links: { feedback: { fields: { name: string; at: number; bits: number; type: string }[] } }[];
    }[];
  };
  version: number;
}

export interface Needs {
  /** The bench stands still before and after the test. */
  usesBench: boolean;
  /** Names of the demo's devices; none for all of them. */
  devices: readonly string[];
}

/** A connection that lay idle for a while may be closed by the server at the moment of the next request. */
const again = { maxRetries: 2 };

/** The demo with these devices only. */
const demoWith = (names: readonly string[]): string => {
  const file = JSON.parse(demoFile) as {
    cell: { devices: { id: string; name: string }[]; exchanges: object[] };
  };
  const gone = file.cell.devices.filter((d) => !names.includes(d.name));
  file.cell.devices = file.cell.devices.filter((d) => names.includes(d.name));
  file.cell.exchanges = file.cell.exchanges.filter((exchange) =>
    gone.every(({ id }) => !JSON.stringify(exchange).includes(`"device":"${id}"`)),
  );
  return JSON.stringify(file);
};

/** A page that stands still says why to nobody but its console: its errors, and the requests that never ended. */
function listenTo(page: Page): () => string[] {
  const said: string[] = [];
  const underWay = new Set<string>();
  page.on('console', (message) => message.type() === 'error' && said.push(`console: ${message.text()}`));
  page.on('pageerror', (error) => said.push(`page: ${error.stack ?? error.message}`));
  page.on('request', (request) => underWay.add(request.url()));
  page.on('requestfinished', (request) => underWay.delete(request.url()));
  page.on('response', (response) => {
    if (response.status() < 400) return;
    const at = said.push(`answer: ${response.url()} ${response.status()}`) - 1;
    void response.text().then(
      (text) => (said[at] += ` ${text.slice(0, 200)}`),
      () => undefined,
    );
  });
  page.on('requestfailed', (request) => {
    underWay.delete(request.url());
    said.push(`request: ${request.url()} ${request.failure()?.errorText}`);
  });
  return () => [...said, ...[...underWay].map((url) => `under way: ${url}`)];
}

/**
 * Each test works on a cell of its own, made from the demo, whole or with the `devices` that it needs.
 */
export const test = base.extend<Needs & { cellId: string }>({
  page: async ({ page }, use, testInfo) => {
    const said = listenTo(page);
    await use(page);
    if (testInfo.status !== testInfo.expectedStatus) {
      console.log(said().join('\n'));
      // What it showed is gone with a second try that passes.
      const shown = page.locator('body').ariaSnapshot({ timeout: 5000 });
      console.log(await shown.catch((error: Error) => `the page does not answer: ${error.message}`));
    }
    expect(
      said().filter((line) => line.startsWith('page: ')),
      'errors of the page',
    ).toEqual([]);
  },
  usesBench: [false, { option: true }],
  devices: [[], { option: true }],
  cellId: async ({ request, devices, usesBench }, use) => {
    if (usesBench) await request.delete('/api/bench', again);
    const answer = await request.post('/api/cells', {
      data: devices.length > 0 ? demoWith(devices) : demoFile,
      headers: { 'content-type': 'application/json' },
    });
    const { id } = (await answer.json()) as { id: string };
    await use(id);
    if (usesBench) await request.delete('/api/bench', again);
    await request.delete(`/api/cells/${id}`, again);
  },
});
export { expect };

export const stored = async (request: APIRequestContext, id: string): Promise<Stored> =>
  (await (await request.get(`/api/cells/${id}`, again)).json()) as Stored;

/** A field of the stored cell, by device and name. */
export const storedField = async (request: APIRequestContext, id: string, device: string, name: string) =>
  (await stored(request, id)).cell.devices
    .find((d) => d.name === device)
    ?.links[0]?.feedback.fields.find((f) => f.name === name);

/** Loads a view and waits until its events flow, so that keys and clicks count. */
export async function loadView(page: Page, id: string, view: string): Promise<void> {
  await page.goto(`/cells/${id}/${view}`);
  await expect(page.getByTestId('bench-state')).toHaveText(/stopped|runs/);
}

/** Opens a view: where the cell is open already, as by a link of its page, which takes half the time. */
export async function openView(page: Page, id: string, view: string): Promise<void> {
  const path = `/cells/${id}/${view}`;
  if (!page.url().includes(`/cells/${id}/`)) return loadView(page, id, view);
  await page.evaluate((href) => {
    const link = Object.assign(document.createElement('a'), { href });
    document.body.append(link);
    link.click();
    link.remove();
  }, path);
  await page.waitForURL(path);
}

/** Opens a folded part of the lens. */
export async function openSection(page: Page, title: string): Promise<void> {
  const section = page
    .locator('details')
    .filter({ has: page.getByRole('heading', { name: title, exact: true }) });
  if ((await section.getAttribute('open')) === null) await section.locator('summary').click();
}

/** Another person: a browser window with nothing kept of the first one, at the same view. */
export async function secondPerson(page: Page, id: string, view: string): Promise<Page> {
  const other = await (await page.context().browser()!.newContext()).newPage();
  const said = listenTo(other);
  await openView(other, id, view).catch((error: Error) => {
    throw new Error([error.message, ...said()].join('\n'));
  });
  return other;
}

/** Process ids of the started parts: the launcher's children by what they run. */
export function pidOf(part: 'agent' | 'web' | 'database'): number {
  const { pid } = JSON.parse(readFileSync(join(process.env['FADENKREUZ_DATA']!, 'running.json'), 'utf8')) as {
    pid: number;
  };
  const pattern = { agent: 'dist/agent.js', web: 'build/index.js', database: 'postgres -D' }[part];
  const lines = execFileSync('ps', ['-o', 'pid=,args=', '--ppid', String(pid)], { encoding: 'utf8' }).split(
    '\n',
  );
  const line = lines.find((l) => l.includes(pattern));
  if (!line) throw new Error(`${part} does not run`);
  return Number(line.trim().split(/\s+/)[0]);
}
