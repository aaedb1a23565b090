import { expectAccessible } from '../accessible.js';
import { expectReadable } from '../readable.js';
import { changeCell, expect, openView, stored, test } from '../page.js';

// Of each kind of link one, and what is safe; all views of the whole demo are walked at the desk.
test.use({ devices: ['gate_safety_k1', 'climate_io_u1', 'rind_camera_v1', 'brine_pump_m2'] });

test('bench and sight with live values: WCAG 2.2 AA by axe in both themes, no horizontal scrolling at 1280 × 800', async ({
  page,
  request,
  cellId,
}) => {
  // One that is refused says why, in a long line.
  const refused = (await stored(request, cellId)).cell.devices.find((d) => d.name === 'climate_io_u1')!;
  const image = refused.links[0]!.feedback.id;
  await changeCell(request, cellId, { edit: 'image.set', image, set: { size: 24 } });
  await request.post('/api/bench', { data: { cell: cellId } });
  for (const view of ['bench', 'sight'])
    await test.step(view, async () => {
      await openView(page, cellId, view);
      if (view === 'bench')
        await expect(page.getByRole('main')).toContainText('has another size than planned');
      else await page.getByLabel('device', { exact: true }).selectOption({ label: 'rind_camera_v1' });
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
