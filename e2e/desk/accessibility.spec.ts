import { expectAccessible, expectNoViolations } from '../accessible.js';
import { openView, test } from '../page.js';

const views = {
  'the line-up': ['line-up', 'line-up/reticle', 'line-up/wire', 'line-up/addresses'],
  'parameters, library, hand-over': ['parameters', 'line-up/library', 'hand-over', 'exchanges'],
  'motion, safety': ['motion', 'motion?part=fields', 'motion?part=drive', 'motion?part=hand', 'safety'],
  'the sight': ['sight/table', 'sight/compare', 'sight/print'],
};
for (const [group, all] of Object.entries(views))
  test(`${group}: WCAG 2.2 AA by axe in both themes, no horizontal scrolling at 1280 × 800`, async ({
    page,
    cellId,
  }) => {
    for (const view of all)
      await test.step(view, async () => {
        await openView(page, cellId, view);
        // The longest image, so that what scrolls does scroll.
        if (view.startsWith('sight'))
          await page.getByLabel('device', { exact: true }).selectOption({ label: 'rind_camera_v1' });
        await expectAccessible(page);
      });
  });

test('the list of cells', async ({ page }) => {
  await page.goto('/cells');
  await expectNoViolations(page);
});
