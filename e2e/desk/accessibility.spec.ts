import { expectAccessible, expectNoViolations } from '../accessible.js';
import { openView, test } from '../page.js';

for (const view of [
  'line-up',
  'line-up/reticle',
  'line-up/wire',
  'line-up/addresses',
  'line-up/parameters',
  'line-up/library',
  'sight/table',
  'sight/compare',
  'sight/print',
  'hand-over',
])
  test(`${view}: WCAG 2.2 AA by axe in both themes, no horizontal scrolling at 1280 × 800`, async ({
    page,
    cellId,
  }) => {
    await openView(page, cellId, view);
    // The longest image, so that what scrolls does scroll.
    if (view.startsWith('sight'))
      await page.getByLabel('device', { exact: true }).selectOption({ label: 'rind_camera_v1' });
    await expectAccessible(page);
  });

test('the list of cells', async ({ page }) => {
  await page.goto('/cells');
  await expectNoViolations(page);
});
