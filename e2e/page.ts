import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  test as base,
  expect,
  type APIRequestContext,
  type APIResponse,
  type ConsoleMessage,
  type Page,
  type Request,
  type Response,
  type ViewportSize,
} from '@playwright/test';

export const demoFile = readFileSync(new URL('../demo/ripening-store-3.json', import.meta.url), 'utf8');

interface Stored {
  cell: {
    name: string;
    devices: {
      id: string;
      name: string;
      address: string;
      description: { parameters: object[]; lights: object[] };
      links: {
        feedback: {
          id: string;
          fields: { id: string; name: string; at: number; bits: number; type: string }[];
        };
      }[];
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

/** What the server answers; while a part of it is busy or away, as on a computer that halts, it is asked again. */
async function answered(ask: () => Promise<APIResponse>): Promise<APIResponse> {
  let answer: APIResponse | undefined;
  await expect(async () => {
    answer = await ask();
    if (answer.status() === 503) console.log(`asked again: ${answer.url()} ${await answer.text()}`);
    expect(answer.status()).not.toBe(503);
  }).toPass({ timeout: 60_000 });
  expect(answer!.ok(), await answer!.text()).toBe(true);
  return answer!;
}

/** Makes a cell from a cell file; gives its id. */
export async function makeCell(request: APIRequestContext, file: string | object): Promise<string> {
  const data = typeof file === 'string' ? file : JSON.stringify(file);
  const headers = { 'content-type': 'application/json' };
  const answer = await answered(() => request.post('/api/cells', { data, headers, ...again }));
  return ((await answer.json()) as { id: string }).id;
}

/** The demo's file with these devices only. */
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
function listenTo(page: Page): { said: () => string[]; stop: () => void } {
  const said: string[] = [];
  const underWay = new Set<string>();
  const onConsole = (message: ConsoleMessage) =>
    message.type() === 'error' && said.push(`console: ${message.text()}`);
  const onError = (error: Error) => said.push(`page: ${error.stack ?? error.message}`);
  const onRequest = (request: Request) => underWay.add(request.url());
  const onFinished = (request: Request) => underWay.delete(request.url());
  const onFailed = (request: Request) => {
    underWay.delete(request.url());
    said.push(`request: ${request.url()} ${request.failure()?.errorText}`);
  };
  const onResponse = (response: Response) => {
    if (response.status() < 400) return;
    const at = said.push(`answer: ${response.url()} ${response.status()}`) - 1;
    void response.text().then(
      (text) => (said[at] += ` ${text.slice(0, 200)}`),
      () => undefined,
    );
  };
  page.on('console', onConsole).on('pageerror', onError).on('response', onResponse);
  page.on('request', onRequest).on('requestfinished', onFinished).on('requestfailed', onFailed);
  return {
    said: () => [...said, ...[...underWay].map((url) => `under way: ${url}`)],
    stop: () => {
      page.off('console', onConsole).off('pageerror', onError).off('response', onResponse);
      page.off('request', onRequest).off('requestfinished', onFinished).off('requestfailed', onFailed);
    },
  };
}

/** A window as a new one is: nothing kept, nothing granted, no page but its first. */
async function asNew(page: Page, viewport: ViewportSize): Promise<void> {
  const context = page.context();
  for (const other of context.pages()) if (other !== page) await other.close();
  await page.unrouteAll();
  await context.clearPermissions();
  await page.emulateMedia({ media: null });
  await page.setViewportSize(viewport);
  // Whatever answers has the origin of the application, and runs nothing of it that would keep something again.
  await page.goto('/api/health');
  await page.evaluate(() => {
    localStorage.clear();
    sessionStorage.clear();
  });
}

/** Has the pages of a window count a person's clicks, in what they keep. */
const countClicks = (page: Page) =>
  page.addInitScript(() => {
    const add = (n: number) =>
      sessionStorage.setItem('clicks', String(Number(sessionStorage.getItem('clicks') ?? 0) + n));
    // What has to be armed, pulsed or written again because a busy computer lost it is one and the same press.
    const again = /^(Arm$|pulse |write )/i;
    const pressed = (e: Event) => {
      const button = (e.target as HTMLElement).closest('button');
      const group = button?.closest('[role=group]')?.getAttribute('aria-label') ?? '';
      const name = [group, button?.getAttribute('aria-label') ?? button?.textContent].join(' ').trim();
      if (!again.test(name)) return add(1);
      if (sessionStorage.getItem(name) === null) add(1);
      sessionStorage.setItem(name, 'pressed');
    };
    addEventListener('pointerdown', pressed, true);
    addEventListener('change', (e) => e.target instanceof HTMLSelectElement && add(2), true);
  });

interface Fixtures {
  cellId: string;
  /** A person's clicks so far: one for each press of a button, and two for each choice from a list. */
  clicks: () => Promise<number>;
}

/** A colour that changes slowly is drawn twelve times for each press: a tenth of what the browser does in the tests. */
const reducedMotion = 'reduce';

/**
 * Each test works on a cell of its own, made from the demo, whole or with the `devices` that it needs.
 *
 * All tests of a worker have one window, which is as new before each: to read and compile the application anew costs as
 * much as all else of a load. A test that fails ends its worker, and its window.
 */
export const test = base.extend<Needs & Fixtures, { window: Page }>({
  window: [
    async ({ browser }, use, { project }) => {
      const { baseURL, storageState, colorScheme, viewport } = project.use;
      const context = await browser.newContext({
        baseURL: baseURL!,
        storageState: storageState!,
        colorScheme: colorScheme!,
        viewport: viewport!,
        reducedMotion,
      });
      await use(await context.newPage());
      await context.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ window }, use) => use(window.context()),
  page: async ({ window: page }, use, testInfo) => {
    const { said, stop } = listenTo(page);
    await use(page);
    if (testInfo.status !== testInfo.expectedStatus) {
      console.log(said().join('\n'));
      // What each person saw is gone with a second try that passes.
      for (const context of page.context().browser()!.contexts())
        for (const one of context.pages()) {
          const shown = one.locator('body').ariaSnapshot({ timeout: 5000 });
          console.log(await shown.catch((error: Error) => `the page does not answer: ${error.message}`));
        }
    } else await asNew(page, testInfo.project.use.viewport!);
    stop();
    expect(
      said().filter((line) => line.startsWith('page: ')),
      'errors of the page',
    ).toEqual([]);
  },
  clicks: async ({ page }, use) => {
    const counting = await countClicks(page);
    await use(() => page.evaluate(() => Number(sessionStorage.getItem('clicks') ?? 0)));
    await counting.dispose();
  },
  usesBench: [false, { option: true }],
  devices: [[], { option: true }],
  cellId: async ({ request, devices, usesBench }, use) => {
    if (usesBench) await request.delete('/api/bench', again);
    const id = await makeCell(request, devices.length > 0 ? demoWith(devices) : demoFile);
    await use(id);
    if (usesBench) await request.delete('/api/bench', again);
    await request.delete(`/api/cells/${id}`, again);
  },
});
export { expect };

export const stored = async (request: APIRequestContext, id: string): Promise<Stored> =>
  (await (await answered(() => request.get(`/api/cells/${id}`, again))).json()) as Stored;

/** Changes the stored cell as another person's page would. */
export async function changeCell(request: APIRequestContext, id: string, edit: object): Promise<void> {
  const { version } = await stored(request, id);
  const who = { madeOn: version, known: version, person: 'test', desk: 'test' };
  // One and the same change is made once, however often it is sent.
  const data = { id: randomUUID(), ...who, edit };
  await answered(() => request.post(`/api/cells/${id}/changes`, { data }));
}

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

/** Opens a page of the application as by a link of the one that is open, which takes half the time of a load. */
async function follow(page: Page, path: string): Promise<void> {
  await page.evaluate((href) => {
    const link = Object.assign(document.createElement('a'), { href });
    document.body.append(link);
    link.click();
    link.remove();
  }, path);
  await page.waitForURL(path);
}

/** Opens a view; where the cell is open already, as by a link of its page. */
export const openView = (page: Page, id: string, view: string): Promise<void> =>
  page.url().includes(`/cells/${id}/`) ? follow(page, `/cells/${id}/${view}`) : loadView(page, id, view);

/** Opens the list of cells; where a page of the application is open already, as by a link of it. */
export async function openCells(page: Page): Promise<void> {
  if (page.url().includes('/cells')) return follow(page, '/cells');
  await page.goto('/cells');
  await page.waitForLoadState('networkidle');
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
  const other = await (await page.context().browser()!.newContext({ reducedMotion })).newPage();
  const { said } = listenTo(other);
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
