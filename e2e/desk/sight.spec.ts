import { expect, openSection, openView, storedField, test } from '../page.js';
import type { Page } from '@playwright/test';

/** The middle of a bit on the tape of climate_io_u1's feedback, 16 bits a row. */
async function bitPoint(page: Page, row: number, column: number) {
  const box = (await page.getByTestId('tape').boundingBox())!;
  const cell = box.width / 16;
  return { x: box.x + (15 - column + 0.5) * cell, y: box.y + row * 44 + 22 };
}
async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }) {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
}

test.use({ devices: ['climate_io_u1', 'rack_lift_a1'] });
test.beforeEach(async ({ page, cellId }) => {
  await openView(page, cellId, 'sight');
  await page.getByLabel('device', { exact: true }).selectOption({ label: 'climate_io_u1' });
});

test('a field is drawn, moved and resized with the mouse, and undone step by step', async ({
  page,
  request,
  cellId,
}) => {
  const field = (name: string) => storedField(request, cellId, 'climate_io_u1', name);
  await drag(page, await bitPoint(page, 0, 4), await bitPoint(page, 0, 6));
  await expect.poll(() => field('word_0')).toMatchObject({ at: 4, bits: 3, type: 'BITS' });
  await expect(page.getByRole('heading', { name: 'word_0' })).toBeVisible();

  await drag(page, await bitPoint(page, 0, 5), await bitPoint(page, 0, 6));
  await expect.poll(() => field('word_0')).toMatchObject({ at: 5, bits: 3 });

  // The handle is the left edge of the piece with the highest bit.
  const high = await bitPoint(page, 0, 7);
  const edge = { x: high.x - (await page.getByTestId('tape').boundingBox())!.width / 32 + 4, y: high.y };
  await drag(page, edge, await bitPoint(page, 0, 6));
  await expect.poll(() => field('word_0')).toMatchObject({ at: 5, bits: 2 });

  for (const expected of [
    { at: 5, bits: 3 },
    { at: 4, bits: 3 },
  ]) {
    await page.keyboard.press('ControlOrMeta+z');
    await expect.poll(() => field('word_0')).toMatchObject(expected);
  }
  await page.keyboard.press('ControlOrMeta+z');
  await expect.poll(() => field('word_0')).toBeUndefined();
});

test('everything goes by keyboard: move the crosshair, add, lengthen, name, move and remove a field', async ({
  page,
  request,
  cellId,
}) => {
  const field = (name: string) => storedField(request, cellId, 'climate_io_u1', name);
  await expect(page.getByTestId('device-address')).toHaveText('byte 0 · bit 0');
  for (let n = 0; n < 4; n += 1) await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('controller-address')).toHaveText('fb[0].%X4');
  await page.keyboard.press('n');
  await expect.poll(() => field('bit_0_4')).toMatchObject({ at: 4, bits: 1, type: 'BOOL' });
  await page.keyboard.press('+');
  await expect.poll(() => field('bit_0_4')).toMatchObject({ at: 4, bits: 2, type: 'BITS' });
  await page.keyboard.press('Enter');
  await page.keyboard.type('mode');
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('mode');
  await page.keyboard.press('Enter');
  await expect.poll(() => field('mode')).toMatchObject({ at: 4, bits: 2 });
  await page.keyboard.press('Shift+ArrowLeft');
  await expect.poll(() => field('mode')).toMatchObject({ at: 5 });
  await page.keyboard.press('Delete');
  await expect.poll(() => field('mode')).toBeUndefined();
  // A digit begins an address.
  await page.keyboard.type('4.3');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('controller-address')).toHaveText('fb[2].%X3');
});

test('an address is gone to in rows of any width; one that the image does not have is refused with the last one', async ({
  page,
}) => {
  await page.getByLabel('go to an address').fill('2.5');
  await page.keyboard.press('Enter');
  for (const width of ['8', '32', '64', '16']) {
    await page
      .getByRole('group', { name: 'bits in a row' })
      .getByRole('button', { name: width, exact: true })
      .click();
    await expect(page.getByTestId('controller-address')).toHaveText('fb[1].%X5');
  }
  await page.getByLabel('go to an address').fill('fb[99]');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'fb[5].%X15' })).toBeVisible();
});

test('a scale through two points, and one that follows the drive train; a standard layout is laid in', async ({
  page,
  request,
  cellId,
}) => {
  await page.getByLabel('device', { exact: true }).selectOption({ label: 'rack_lift_a1' });
  await page.keyboard.type('4');
  await page.keyboard.press('Enter');
  const entry = (label: string) => page.getByLabel(label, { exact: true });
  const fill = async (label: string, text: string) => {
    await entry(label).fill(text);
    await entry(label).press('Enter');
  };
  await page.getByText('Work the scale out').click();
  for (const [label, text] of [
    ['first, raw', '200'],
    ['first, value', '0'],
    ['second, raw', '1000'],
    ['second, value', '10'],
  ] as const)
    await fill(label, text);
  await page.getByRole('button', { name: 'Take this scale' }).click();
  await expect(entry('factor')).toHaveValue('1/80');
  await expect(entry('offset')).toHaveValue('-5/2');
  await page.getByRole('button', { name: 'mechanics' }).click();
  await page.getByLabel('it follows the drive train').check();
  await fill('increments a revolution', '4000');
  await fill('motor revolutions', '2');
  await entry('what the shaft drives').selectOption('screw');
  await fill('lead, mm', '5');
  // 5 mm a revolution of the shaft, half of it one of the motor: 2.5 mm / 4000.
  await expect(entry('factor')).toHaveValue('1/1600');
  await expect(entry('offset')).toHaveValue('0');

  await page.getByLabel('device', { exact: true }).selectOption({ label: 'climate_io_u1' });
  await page.getByRole('button', { name: 'Image', exact: true }).click();
  await openSection(page, 'Standard layout');
  await entry('standard layout').selectOption({ label: 'speed control, instance 71' });
  await page.getByRole('button', { name: 'Add its fields' }).click();
  await expect
    .poll(() => storedField(request, cellId, 'climate_io_u1', 'speed_actual'))
    .toMatchObject({ at: 16, bits: 16, type: 'INT' });
});
