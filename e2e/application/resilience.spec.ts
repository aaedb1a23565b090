import type { Page } from '@playwright/test';
import { expect, openSection, openView, pidOf, stored, test } from '../page.js';

test.use({ devices: ['climate_io_u1', 'brush_belt_m1'] });

/** What the foot says from now on, as it changes; gives what it has said so far. */
async function listenToFoot(page: Page): Promise<() => Promise<string[]>> {
  await page.evaluate(() => {
    const state = document.querySelector('[data-testid=bench-state]')!;
    const said: string[] = [];
    Object.assign(window, { said });
    new MutationObserver(() => said.push(state.textContent)).observe(state, {
      subtree: true,
      childList: true,
      characterData: true,
    });
  });
  return () => page.evaluate(() => (window as never as { said: string[] }).said);
}

test('kill -9 of each part while edits are saved: nothing is lost, and the page says so and comes back', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  await openSection(page, 'Place and limits');
  const serves = page.getByLabel('serves', { exact: true });
  const parts = {
    web: /web server does not answer/,
    database: /database is away/,
    agent: /agent is away/,
  };
  let edits = 0;
  for (const [part, word] of Object.entries(parts) as [keyof typeof parts, RegExp][])
    await test.step(part, async () => {
      const saidByFoot = await listenToFoot(page);
      const before = pidOf(part);
      for (let n = 1; n <= 12; n += 1) {
        edits += 1;
        await serves.fill(`part ${edits}`);
        await serves.press('Enter');
        if (n === 4) process.kill(before, 'SIGKILL');
      }
      await expect(page.getByRole('status').filter({ hasText: 'not stored yet' })).toHaveCount(0, {
        timeout: 30_000,
      });
      await expect(page.getByTestId('bench-state')).toHaveText(/Bench stopped/, { timeout: 30_000 });
      const said = await saidByFoot();
      expect(
        said.some((s) => word.test(s)),
        said.join(' | '),
      ).toBe(true);
      expect(pidOf(part)).not.toBe(before);

      // Every edit was confirmed once, in its order; the page shows what is stored.
      const { version } = await stored(request, cellId);
      expect(version).toBe(edits + 1);
      const history = (await (await request.get(`/api/cells/${cellId}/changes`)).json()) as {
        version: number;
        kind: string;
      }[];
      expect(history.map((c) => c.version)).toEqual(Array.from({ length: edits }, (_, i) => version - i));
      await expect(serves).toHaveValue(`part ${edits}`);
    });
  await page.reload();
  await expect(serves).toHaveValue('part 36');
});

test('a view that is opened while the web server is started again comes by itself', async ({
  page,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  process.kill(pidOf('web'), 'SIGKILL');
  await page.getByRole('link', { name: 'Cells', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Cells', exact: true })).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'Ripening Store 3' }).first()).toBeVisible();
});
