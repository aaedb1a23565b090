import { readFile } from 'node:fs/promises';
import { expect, openView, storedField, test } from '../page.js';
import { setBit, untilObeyed, writeNumber } from './commands.js';

test('from the first page to a command that the device obeys, an undone move, and the code', async ({
  page,
  request,
  cellId,
}) => {
  await page.goto('/');
  await expect(page).toHaveURL(/\/cells\/.+\/line-up$/);
  await expect(page.getByLabel('name of climate_io_u1')).toBeVisible();
  await expect(page.getByRole('row').filter({ has: page.getByLabel('name of brush_belt_m1') })).toContainText(
    'bench off',
  );

  // The crosshair on a bit: both sides' addresses.
  await openView(page, cellId, 'sight');
  await page.getByLabel('device', { exact: true }).selectOption({ label: 'climate_io_u1' });
  await page.getByLabel('go to an address').fill('word 0 bit 9');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('controller-address')).toHaveText('fb[0].%X9');
  await expect(page.getByTestId('device-address')).toHaveText('byte 1 · bit 1');
  await expect(page.getByRole('heading', { name: 'supply_ok' })).toBeVisible();

  // The bench: bytes of the device arrive.
  await page.getByRole('link', { name: 'Bench' }).click();
  await page.getByRole('button', { name: 'Start' }).click();
  const strip = page.getByRole('list', { name: 'devices of the bench' });
  await expect(strip.getByRole('img', { name: 'open' })).toHaveCount(11);
  await page.getByRole('button', { name: 'Table of links' }).click();
  const line = page.getByRole('row').filter({ hasText: 'climate_io_u1' }).first();
  await expect(line).toContainText('open');
  await expect(page.locator('[data-value=supply_ok]')).toContainText('supply in order');
  await expect(page.locator('[data-value=heater_on]')).toContainText('off');

  // Disarmed nothing can be written; armed a bit and a value can.
  await expect(page.getByRole('group', { name: 'write heater', exact: true })).toHaveCount(0);
  const temperature = async () =>
    Number((await page.locator('[data-value=room_temperature]').textContent())?.replace(/[^\d.]/g, ''));
  const before = await temperature();
  await untilObeyed(
    async () => {
      await setBit(page, 'heater');
      await writeNumber(page, 'heater_level', 80);
      await expect(page.locator('[data-value=heater_on]')).toContainText('on', { timeout: 15_000 });
    },
    () => expect.poll(temperature, { timeout: 15_000 }).toBeGreaterThan(before + 0.1),
  );

  // Its answer in the Sight: the bit is set, the readout leads to its meaning.
  await page.getByRole('link', { name: 'Sight' }).click();
  await page.getByRole('button', { name: /feedback/ }).click();
  await expect(page.getByRole('heading', { name: 'heater_on' })).toBeVisible();
  const lens = page.getByLabel('Field under the crosshair');
  await expect(lens).toContainText('means');
  await expect(lens.getByText('on', { exact: true })).toBeVisible();

  // A field is moved by keyboard, the page is loaded anew, and the move is undone.
  await page.getByLabel('go to an address').fill('1.2');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'too_warm' })).toBeVisible();
  await page.keyboard.press('Shift+ArrowLeft');
  await expect
    .poll(async () => (await storedField(request, cellId, 'climate_io_u1', 'too_warm'))?.at)
    .toBe(11);
  await page.reload();
  await page.getByRole('button', { name: 'Undo: place too_warm' }).click();
  await expect
    .poll(async () => (await storedField(request, cellId, 'climate_io_u1', 'too_warm'))?.at)
    .toBe(10);
  await page.getByRole('button', { name: 'Redo: place too_warm' }).click();
  await expect
    .poll(async () => (await storedField(request, cellId, 'climate_io_u1', 'too_warm'))?.at)
    .toBe(11);

  // The code.
  await page.getByRole('link', { name: 'Hand-over' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).first().click();
  const code = await readFile(await (await download).path(), 'utf8');
  expect(code).toContain('FUNCTION climate_io_u1_unpack : climate_io_u1_feedback_t');
  expect(code).toContain('climate_io_u1_unpack.too_warm := raw[0].%X11;');
});
