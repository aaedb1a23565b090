import AxeBuilder from '@axe-core/playwright';
import { expect, openView, test } from './desk.js';

for (const theme of ['paper', 'lamp'])
  for (const view of [
    'line-up',
    'sight',
    'sight/table',
    'sight/compare',
    'sight/print',
    'bench',
    'hand-over',
  ])
    test(`${view} on ${theme}: WCAG 2.2 AA by axe, no horizontal scrolling at 1280 × 800`, async ({
      page,
      request,
      cellId,
    }) => {
      await page.addInitScript((t) => localStorage.setItem('theme', t), theme);
      // Live values show in these two; elsewhere a running bench would only keep the machine busy.
      if (view === 'bench' || view === 'sight') await request.post('/api/bench', { data: { cell: cellId } });
      await openView(page, cellId, view);
      // The longest image, so that what scrolls does scroll.
      if (view.startsWith('sight'))
        await page.getByLabel('device', { exact: true }).selectOption({ label: 'rind_camera_v1' });
      await page.waitForTimeout(600);
      const axe = new AxeBuilder({ page });
      // A theme changes colours and nothing else: the second one is asked for contrast alone.
      const { violations } = await (
        theme === 'paper'
          ? axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
          : axe.withRules(['color-contrast'])
      ).analyze();
      expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`)).toEqual(
        [],
      );
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280);
      const wide = await page
        .locator('main, aside')
        .evaluateAll((all) => all.filter((e) => e.scrollWidth > e.clientWidth).length);
      expect(wide).toBe(0);
    });

test('the list of cells', async ({ page }) => {
  await page.goto('/cells');
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => v.id)).toEqual([]);
});
