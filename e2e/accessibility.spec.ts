import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, openView, test } from './desk.js';

const violations = async (axe: AxeBuilder) =>
  (await axe.analyze()).violations.map(
    (v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`,
  );

async function expectNoSidewaysScrolling(page: Page): Promise<void> {
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280);
  const wide = await page
    .locator('main, aside')
    .evaluateAll((all) => all.filter((e) => e.scrollWidth > e.clientWidth).length);
  expect(wide).toBe(0);
}

for (const view of ['line-up', 'sight', 'sight/table', 'sight/compare', 'sight/print', 'bench', 'hand-over'])
  test(`${view}: WCAG 2.2 AA by axe in both themes, no horizontal scrolling at 1280 × 800`, async ({
    page,
    request,
    cellId,
  }) => {
    // Live values show in these two; elsewhere a running bench would only keep the machine busy.
    if (view === 'bench' || view === 'sight') await request.post('/api/bench', { data: { cell: cellId } });
    await openView(page, cellId, view);
    // The longest image, so that what scrolls does scroll.
    if (view.startsWith('sight'))
      await page.getByLabel('device', { exact: true }).selectOption({ label: 'rind_camera_v1' });
    await page.waitForTimeout(600);
    const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
    expect(await violations(new AxeBuilder({ page }).withTags(tags))).toEqual([]);
    await expectNoSidewaysScrolling(page);
    // A theme changes colours and nothing else: the second one is asked for contrast alone.
    const paper = await page.locator('html').getAttribute('data-theme');
    await page.getByRole('button', { name: 'Paper or lamp' }).click();
    await expect(page.locator('html')).not.toHaveAttribute('data-theme', paper!);
    await page.waitForTimeout(300);
    expect(await violations(new AxeBuilder({ page }).withRules(['color-contrast']))).toEqual([]);
  });

test('the list of cells', async ({ page }) => {
  await page.goto('/cells');
  const { violations: all } = await new AxeBuilder({ page }).analyze();
  expect(all.map((v) => v.id)).toEqual([]);
});
