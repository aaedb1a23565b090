import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { expectAccessible } from '../accessible.js';
import { expect, openSection, openView, stored, test } from '../page.js';
import { pressArmed } from './commands.js';

test.use({ devices: ['brush_belt_m1'] });

const file = readFileSync(new URL('../../demo/describers/murmel_px8.eds', import.meta.url));

const row = (page: Page, text: string): Locator =>
  page.getByRole('main').getByRole('row').filter({ hasText: text });
async function scan(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  await expect(page.getByRole('main').getByText(/of \d+ right/)).toBeVisible({ timeout: 30_000 });
}

test('from a faulty data sheet to a line-up that is all right on the wire; one that asks gets its address', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  await page
    .getByLabel('From a file')
    .setInputFiles({ name: 'murmel_px8.eds', mimeType: 'text/plain', buffer: file });
  const lens = page.getByLabel('Device', { exact: true });
  await expect(lens.getByRole('list', { name: 'wrong in the file' }).getByRole('listitem')).toHaveCount(2);
  await lens.getByLabel('name').fill('climate_io_u1');
  await lens.getByLabel('address').fill('192.168.40.71');
  await lens.getByRole('button', { name: 'Add', exact: true }).click();
  await openSection(page, 'Place and limits');
  await lens.getByLabel('factory address').fill('192.168.1.1');
  await lens.getByLabel('factory address').press('Enter');
  await lens.getByLabel('copies', { exact: true }).fill('3');
  await lens.getByRole('button', { name: /^Add .*cop/ }).click();
  await expect.poll(async () => (await stored(request, cellId)).cell.devices.length).toBe(5);

  // The bench knows the product: its stand-ins are there, two of them not as planned.
  await request.post('/api/bench', { data: { cell: cellId } });
  const { devices } = (await stored(request, cellId)).cell as unknown as {
    devices: { id: string; name: string }[];
  };
  const idOf = (name: string) => devices.find((d) => d.name === name)!.id;
  const inject = (name: string, fault: object) =>
    request.post('/api/bench/inject', { data: { device: idOf(name), fault } });
  expect((await inject('climate_io_u2', { fault: 'wrong-device', differs: 'revision' })).ok()).toBe(true);
  expect((await inject('climate_io_u3', { fault: 'factory-address' })).ok()).toBe(true);

  await page.getByRole('link', { name: 'Wire' }).click();
  await scan(page);
  await expect(row(page, 'climate_io_u1')).toContainText('right');
  await expect(row(page, 'climate_io_u2')).toContainText('wrong revision');
  await expect(row(page, 'climate_io_u3')).toContainText('factory address');
  await expect(page.getByRole('main')).toContainText('3 of 5 right');
  await expectAccessible(page);

  const found = page.getByLabel('Found and planned');
  await row(page, 'climate_io_u2').getByRole('button').click();
  await expect(found.getByRole('list', { name: 'its lights should show' })).toContainText(
    'module steady green',
  );
  await found.getByRole('button', { name: /^Accept revision/ }).click();
  await expect(row(page, 'climate_io_u2')).toContainText('right');

  // Writing to a device needs Arm: the button says that it arms, and for how long.
  await row(page, 'climate_io_u3').getByRole('button').click();
  await found.getByRole('button', { name: /^Arm for 30 s: Assign 192\.168\.40\.7/ }).click();
  await expect(row(page, 'climate_io_u3')).toContainText('right', { timeout: 30_000 });
  await expect(page.getByRole('main')).toContainText('5 of 5 right');

  // What the nameplates say goes into the printable list.
  await page.getByRole('button', { name: 'Take 5 nameplates into the plan' }).click();
  await page.getByRole('link', { name: 'Addresses' }).click();
  await expect(row(page, 'climate_io_u4')).toContainText(/02-FA(-[0-9A-F]{2}){4}/);
  await expect(page.getByRole('contentinfo')).toContainText('5 of 5 open', { timeout: 30_000 });

  // One that asks is given its address, and told to keep it.
  expect((await inject('brush_belt_m1', { fault: 'asks-for-address', method: 'bootp' })).ok()).toBe(true);
  await page.getByRole('link', { name: 'Wire' }).click();
  await page.getByRole('button', { name: 'Listen' }).click();
  const asking = page.getByLabel('Devices that ask for an address');
  await expect(asking.getByRole('listitem')).toContainText('BOOTP');
  await scan(page);
  await expect(row(page, 'brush_belt_m1')).toContainText('missing');
  await asking.getByRole('combobox').selectOption({ label: 'brush_belt_m1, 192.168.40.21' });
  await expect(asking).toContainText('given');
  await scan(page);
  await expect(row(page, 'brush_belt_m1')).toContainText('asks still');
  await row(page, 'brush_belt_m1').getByRole('button').click();
  const keep = page.getByRole('button', { name: 'Let it keep this address' });
  await pressArmed(page, page.getByLabel('Found and planned').locator(keep));
  await expect(row(page, 'brush_belt_m1')).toContainText('right');
  await asking.getByRole('button', { name: 'End' }).click();
  await expect(asking.getByRole('button', { name: 'Listen' })).toBeVisible();
});
