import { demoFile, expect, openView, stored, test } from './desk.js';

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

test('a wrong size is refused by the device, and both findings name the factor', async ({ page, cellId }) => {
  await openView(page, cellId, 'line-up');
  await page.getByLabel('name of climate_io_u1').click();
  const size = page.getByLabel('size, bytes of the feedback image', { exact: true });
  await size.fill('24');
  await size.press('Enter');
  await expect(page.getByLabel('Device', { exact: true })).toContainText(
    '12 bytes were taken for 16-bit elements',
  );
  await page.getByRole('link', { name: 'Bench' }).click();
  await page.getByRole('button', { name: 'Start' }).click();
  await page.getByRole('main').getByRole('button', { name: 'climate_io_u1', exact: true }).click();
  const state = page.getByLabel('State of the device');
  await expect(state).toContainText(
    'refused the connection over the size of the feedback image: planned 24 bytes, the device has 12',
  );
  await expect(state).toContainText('16#0128');
  await expect(page.getByRole('main')).toContainText('An image has another size than planned');
  // The cure, while the bench runs: undo opens the link anew.
  await page.keyboard.press('ControlOrMeta+z');
  await expect(page.getByRole('row').filter({ hasText: 'climate_io_u1' }).first()).toContainText('stands');
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

test.describe('files that cannot be taken in leave nothing behind', () => {
  const past = () => {
    const file = JSON.parse(demoFile) as {
      cell: { devices: { links: { command: { fields: { at: number }[] } }[] }[] };
    };
    file.cell.devices[0]!.links[0]!.command.fields[0]!.at = 64;
    return JSON.stringify(file);
  };
  const cases: [string, () => string, RegExp][] = [
    ['cut off', () => demoFile.slice(0, 9000), /no complete JSON/],
    ['10 MB', () => `{"x":"${'y'.repeat(10 * 1024 * 1024)}"}`, /may have 8388608/],
    ['a negative size', () => demoFile.replace('"size": 8', '"size": -8'), /command\.size/],
    ['a bit offset past the end', past, /would end at bit 64/],
    [
      'a name with NUL',
      () => demoFile.replace('brush_belt_m1', 'brush\\u0000belt'),
      /control or an invisible character/,
    ],
  ];
  for (const [says, text, message] of cases)
    test(says, async ({ page, request, cellId }) => {
      const before = (await (await request.get('/api/cells')).json()) as unknown[];
      expect(cellId).toBeTruthy();
      await page.goto('/cells');
      await page.waitForLoadState('networkidle');
      await page
        .getByLabel('Take in a cell file')
        .setInputFiles({ name: 'cell.json', mimeType: 'application/json', buffer: Buffer.from(text()) });
      await expect(page.getByRole('status')).toContainText(message);
      await expect(page.getByRole('status')).toContainText('Nothing was stored');
      expect(await (await request.get('/api/cells')).json()).toEqual(before);
    });

  test('a proper file is taken in as a cell of its own', async ({ page, request }) => {
    await page.goto('/cells');
    await page.waitForLoadState('networkidle');
    const named = demoFile.replace('"name": "Ripening Store 3"', '"name": "Käsereifung №3 搬送"');
    await page
      .getByLabel('Take in a cell file')
      .setInputFiles({ name: 'cell.json', mimeType: 'application/json', buffer: Buffer.from(named) });
    await expect(page.getByRole('banner')).toContainText('Käsereifung №3 搬送');
    const id = /cells\/([^/]+)/.exec(page.url())![1]!;
    const file = await request.get(`/api/cells/${id}/handover/cell`);
    expect(await file.text()).toBe(named.replace('"id": "ripening-store-3"', `"id": "${id}"`));
    await request.delete(`/api/cells/${id}`);
  });
});
