import { expectAccessible } from '../accessible.js';
import { expectReadable } from '../readable.js';
import { openView, test } from '../page.js';

test('bench and sight with live values: WCAG 2.2 AA by axe in both themes, no horizontal scrolling at 1280 × 800', async ({
  page,
  request,
  cellId,
}) => {
  await request.post('/api/bench', { data: { cell: cellId } });
  for (const view of ['bench', 'sight'])
    await test.step(view, async () => {
      await openView(page, cellId, view);
      if (view === 'sight')
        await page.getByLabel('device', { exact: true }).selectOption({ label: 'rind_camera_v1' });
      await expectAccessible(page);
      await expectReadable(page);
      if (view === 'bench')
        for (const part of ['Device’s side', 'Machine', 'What changed?', 'Chart', 'Trace']) {
          await page.getByRole('button', { name: part, exact: true }).click();
          await page.waitForTimeout(300);
          await expectReadable(page);
        }
    });
});
