import type { Page } from '@playwright/test';
import { expect, openView, secondPerson, stored, test } from '../page.js';

test.use({ devices: ['brush_belt_m1', 'wheel_scale_b1', 'climate_io_u1'] });

test('values are edited where they stand; what is wrong is said and not stored', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  const address = page.getByLabel('address of climate_io_u1', { exact: true });
  await address.fill('192.168.40.72');
  await address.press('Enter');
  const device = async () =>
    (await stored(request, cellId)).cell.devices.find((d) => d.name === 'climate_io_u1');
  await expect.poll(device).toMatchObject({ address: '192.168.40.72' });

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

  // F6 goes from the chosen device to its lens, and back.
  const name = page.getByLabel('name of brush_belt_m1');
  await name.focus();
  await page.keyboard.press('F6');
  await expect(page.getByLabel('protocol and connection')).toBeFocused();
  await page.keyboard.press('F6');
  await expect(name).toBeFocused();
  await page.getByRole('button', { name: 'show store_plc_c1 in the lens' }).press('Enter');
  await expect(page.getByLabel('Device', { exact: true })).toContainText('What the line-up asks of it');
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

  // One of registers: a reference says its table itself, and what is none is not taken.
  await page.getByRole('button', { name: 'Add device' }).click();
  await form.getByLabel('protocol').selectOption('Modbus TCP');
  await form.getByLabel('name').fill('silo_scale_b9');
  const read = form.getByRole('group', { name: 'what is read' });
  const first = read.getByLabel('first, or its reference');
  await first.fill('abc');
  await form.getByRole('button', { name: 'Add' }).click();
  expect(await first.evaluate((field: HTMLInputElement) => field.validationMessage)).toContain(
    'abc is no register',
  );
  await first.fill('400201');
  await read.getByLabel('how many').fill('4');
  await expect(read.getByLabel('of the')).toHaveValue('holding');
  await expect(read).toContainText('400201 to 400204');
  await form.getByRole('group', { name: 'what is written' }).getByLabel('how many').fill('0');
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByLabel('name of silo_scale_b9')).toBeVisible();
  await expect
    .poll(async () => (await stored(request, cellId)).cell.devices.at(-1))
    .toMatchObject({
      name: 'silo_scale_b9',
      links: [{ blocks: [{ direction: 'feedback', table: 'holding', start: 200, count: 4 }] }],
    });
});

test('two people on one field: the second is told by whom, and makes it again; each takes back his own', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  const other = await secondPerson(page, cellId, 'line-up');
  const entry = (of: Page) => of.getByLabel('address of wheel_scale_b1', { exact: true });
  // The second one is heard only when the first is stored, as behind a slow line: both have seen the same.
  let stand: () => void = () => undefined;
  const first = new Promise<void>((resolve) => (stand = resolve));
  await other.route('**/changes', async (route) => {
    await first;
    await route.continue();
  });
  await entry(other).fill('192.168.40.92');
  await entry(other).press('Enter');
  await entry(page).fill('192.168.40.91');
  await entry(page).press('Enter');
  await expect
    .poll(async () => (await stored(request, cellId)).cell.devices.find((d) => d.name === 'wheel_scale_b1'))
    .toMatchObject({ address: '192.168.40.91' });
  stand();
  const note = other
    .getByRole('status')
    .filter({ hasText: 'somebody else changed address of wheel_scale_b1' });
  await expect(note).toBeVisible();
  await expect(entry(other)).toHaveValue('192.168.40.91');
  await other.unroute('**/changes');
  await note.getByRole('button', { name: 'Make it again' }).click();
  await expect(entry(page)).toHaveValue('192.168.40.92');
  await expect
    .poll(async () => (await stored(request, cellId)).cell.devices.find((d) => d.name === 'wheel_scale_b1'))
    .toMatchObject({ address: '192.168.40.92' });

  // Each takes back his own last edit.
  const address = (of: Page, device: string) => of.getByLabel(`address of ${device}`, { exact: true });
  await address(page, 'wheel_scale_b1').fill('192.168.40.93');
  await address(page, 'wheel_scale_b1').press('Enter');
  await expect(address(other, 'wheel_scale_b1')).toHaveValue('192.168.40.93');
  await address(other, 'climate_io_u1').fill('192.168.40.94');
  await address(other, 'climate_io_u1').press('Enter');
  await expect(address(page, 'climate_io_u1')).toHaveValue('192.168.40.94');
  await page.getByRole('button', { name: /^Undo: change address of wheel_scale_b1/ }).click();
  await expect(address(other, 'wheel_scale_b1')).not.toHaveValue('192.168.40.93');
  await expect(address(other, 'climate_io_u1')).toHaveValue('192.168.40.94');
  await other.context().close();
});

test('edits that were on their way when the page was left are stored by the next one', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  let arrived = 0;
  // The server hears of nothing while this page lives.
  await page.route('**/changes', () => void (arrived += 1));
  for (const [device, address] of [
    ['wheel_scale_b1', '192.168.40.95'],
    ['climate_io_u1', '192.168.40.96'],
  ] as const) {
    const entry = page.getByLabel(`address of ${device}`, { exact: true });
    await entry.fill(address);
    await entry.press('Enter');
  }
  await expect.poll(() => arrived).toBe(1);
  await page.goto('/');
  await page.unroute('**/changes');
  await openView(page, cellId, 'line-up');
  const addresses = async () =>
    (await stored(request, cellId)).cell.devices
      .filter((d) => /^(wheel_scale_b1|climate_io_u1)$/.test(d.name))
      .map((d) => d.address);
  await expect.poll(addresses).toEqual(expect.arrayContaining(['192.168.40.95', '192.168.40.96']));
});

test('another connection point brings its size and its layout; what is lost is said first', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  await page.getByLabel('name of brush_belt_m1', { exact: true }).click();
  const command = async () =>
    ((await stored(request, cellId)).cell.devices[0]!.links[0] as unknown as { command: object }).command;
  const point = page.getByLabel('connection point of the command image');
  await point.selectOption({ label: '20 · 4 bytes · basic speed control' });
  const said = page.getByRole('status').filter({ hasText: 'Connect to this point' });
  await expect(said).toContainText('lost, 5: run_reverse');
  await expect(said).toContainText('changed place or meaning, 1: speed_reference');
  await said.getByRole('button', { name: 'Cancel' }).click();
  expect(await command()).toMatchObject({ instance: 121, size: 8 });
  await point.selectOption({ label: '20 · 4 bytes · basic speed control' });
  await said.getByRole('button', { name: 'Connect to this point' }).click();
  await expect.poll(command).toMatchObject({
    instance: 20,
    size: 4,
    fields: [{ name: 'run_forward' }, { name: 'fault_reset' }, { name: 'speed_reference', unit: 'rpm' }],
  });
  await page.keyboard.press('ControlOrMeta+z');
  await expect.poll(command).toMatchObject({ instance: 121, size: 8 });
});

test.describe(() => {
  // All of them, and the slowest.
  test.use({ devices: [] });
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
});
