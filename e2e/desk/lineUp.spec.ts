import { expect, openView, stored, test } from '../page.js';

test('values are edited where they stand; what is wrong is said and not stored', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  const address = page.getByLabel('address of climate_io_u1', { exact: true });
  await address.fill('192.168.40.72');
  await address.press('Enter');
  await expect
    .poll(async () => (await stored(request, cellId)).cell.devices[3]?.address)
    .toBe('192.168.40.72');

  await address.fill('192.168.40.999');
  await address.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'no IPv4 address' })).toBeVisible();
  await expect(address).toHaveValue('192.168.40.72');

  await address.fill('192.168.41.72');
  await address.press('Enter');
  await page.getByRole('button', { name: /findings/ }).click();
  await expect(page.getByLabel('Findings')).toContainText('outside the subnet 192.168.40.0/24');
  await page.keyboard.press('ControlOrMeta+z');
  await expect(address).toHaveValue('192.168.40.72');
});

test('a device is added by hand, its sizes counted in 16-bit elements', async ({ page, request, cellId }) => {
  await openView(page, cellId, 'line-up');
  await page.getByRole('button', { name: 'Add device' }).click();
  const form = page.getByLabel('Device', { exact: true });
  await form.getByLabel('name').fill('brine_valve_y1');
  await form.getByLabel('sizes are counted in').selectOption('16-bit elements');
  await form.getByRole('spinbutton', { name: 'size' }).first().fill('3');
  await form.getByRole('spinbutton', { name: 'size' }).last().fill('-5');
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'size' })).toBeVisible();
  expect((await stored(request, cellId)).cell.devices.map((d) => d.name)).not.toContain('brine_valve_y1');

  await form.getByRole('spinbutton', { name: 'size' }).last().fill('5');
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByLabel('name of brine_valve_y1')).toBeVisible();
  await expect(page.getByLabel('size, bytes of the command image', { exact: true })).toHaveValue('6');
  await expect(page.getByLabel('size, bytes of the feedback image', { exact: true })).toHaveValue('10');
  await expect
    .poll(async () => (await stored(request, cellId)).cell.devices.at(-1)?.name)
    .toBe('brine_valve_y1');
});

test('what one person changes, another sees', async ({ page, context, cellId }) => {
  await openView(page, cellId, 'line-up');
  const other = await context.newPage();
  await openView(other, cellId, 'line-up');
  const name = page.getByLabel('name of wheel_scale_b1', { exact: true });
  await name.fill('wheel_scale_b2');
  await name.press('Enter');
  await expect(other.getByLabel('name of wheel_scale_b2')).toBeVisible();
});

test('F6 goes from the chosen device to its lens, and back', async ({ page, cellId }) => {
  await openView(page, cellId, 'line-up');
  const name = page.getByLabel('name of brush_belt_m1');
  await name.focus();
  await page.keyboard.press('F6');
  await expect(page.getByLabel('protocol and connection')).toBeFocused();
  await page.keyboard.press('F6');
  await expect(name).toBeFocused();
  await page.getByRole('button', { name: 'show store_plc_c1 in the lens' }).press('Enter');
  await expect(page.getByLabel('Device', { exact: true })).toContainText('What the line-up asks of it');
});

test('what the line-up costs as a whole follows an edit, and leads to the device that is slow', async ({
  page,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  const card = (title: string) =>
    page.getByLabel('the line-up as a whole').locator('div').filter({ hasText: title });
  await expect(card('connections')).toContainText(/11\s*of 64/);
  // 100 ms back, twice the controller's cycle of 10 ms, 250 ms out.
  await expect(card('slowest reaction')).toContainText(/370 ms\s*brine_pump_m2/);
  const update = page.getByLabel('update time of climate_io_u1 in ms', { exact: true });
  await update.fill('1000');
  await update.press('Enter');
  await expect(card('slowest reaction')).toContainText(/2020 ms\s*climate_io_u1/);
  // It is missed after eight packets that did not come.
  await expect(card('loss noticed last')).toContainText('8000 ms');
  await card('loss noticed last').getByRole('button', { name: 'climate_io_u1' }).click();
  await expect(page.getByLabel('Device', { exact: true })).toContainText('climate_io_u1');
});
