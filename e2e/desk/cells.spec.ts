import { expectNoViolations } from '../accessible.js';
import { expect, openCells, stored, test } from '../page.js';

test.use({ devices: ['brush_belt_m1', 'brine_pump_m2'] });

test('a cell is made, renamed, moved, copied, deleted and restored where one looks', async ({
  page,
  request,
  cellId,
}) => {
  const made: string[] = [cellId];
  const idOf = () => /cells\/([^/]+)/.exec(page.url())![1]!;
  await openCells(page);

  // By the keyboard alone.
  await page.getByRole('button', { name: 'New cell' }).focus();
  await page.keyboard.press('Enter');
  const form = page.getByRole('form', { name: 'Create' });
  await expect(form.getByLabel('Name')).toBeFocused();
  await page.keyboard.type('Presslinie Ä');
  await form.getByLabel('Subnet').fill('10.4.0.0');
  await page.keyboard.press('Enter');
  await expect(form.getByRole('alert')).toContainText('IPv4 subnet');
  await form.getByLabel('Subnet').fill('10.4.0.0/24');
  await page.keyboard.press('Enter');
  await page.waitForURL(/line-up/);
  made.push(idOf());
  expect((await stored(request, idOf())).cell.name).toBe('Presslinie Ä');

  // Rename and move, from the list.
  await openCells(page);
  const rowOf = (id: string) => page.getByRole('row').filter({ has: page.locator(`a[href*="${id}"]`) });
  await rowOf(cellId)
    .getByRole('button', { name: /Name and subnet/ })
    .click();
  const change = page.getByRole('form', { name: 'Change' });
  await change.getByLabel('Name').fill('Store 9');
  await change.getByLabel('Subnet').fill('192.168.9.0/24');
  await page.keyboard.press('Enter');
  await expect(rowOf(cellId)).toContainText('192.168.9.0/24');
  const moved = (await stored(request, cellId)).cell;
  expect(moved.name).toBe('Store 9');
  expect(moved.devices.map((d) => d.address)).toEqual(['192.168.9.21', '192.168.9.91']);

  // A copy under the same name is told apart.
  await rowOf(cellId).getByRole('button', { name: /^Copy/ }).click();
  const copy = page.getByRole('form', { name: 'Copy' });
  await expect(copy.getByLabel('Name')).toHaveValue('Store 9 (copy)');
  await copy.getByLabel('Name').fill('Store 9');
  await page.keyboard.press('Enter');
  await page.waitForURL(/line-up/);
  made.push(idOf());
  await openCells(page);
  await expect(rowOf(made[2]!)).toContainText(/made .*\d\d/);
  await expectNoViolations(page);

  // The export of one is the import of the next.
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    rowOf(made[2]!)
      .getByRole('link', { name: /Export/ })
      .click(),
  ]);
  await page.getByLabel('Import a cell file').setInputFiles(await file.path());
  await page.waitForURL(/line-up/);
  made.push(idOf());

  // Deleted, and back.
  await openCells(page);
  await rowOf(cellId)
    .getByRole('button', { name: /^Delete/ })
    .click();
  await expect(rowOf(cellId)).toHaveCount(0);
  expect((await request.get(`/api/cells/${cellId}`)).status()).toBe(404);
  await page.goto(`/cells/${cellId}/line-up`);
  await expect(page.getByText(/was deleted on .* Restore it/)).toBeVisible();
  await openCells(page);
  await page.getByRole('button', { name: 'Restore Store 9' }).first().click();
  await expect(rowOf(cellId)).toBeVisible();
  for (const id of made.slice(1)) await request.delete(`/api/cells/${id}`);
});
