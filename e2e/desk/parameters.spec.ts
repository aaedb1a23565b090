import { readFileSync } from 'node:fs';
import { expect, openSection, openView, stored, test } from '../page.js';

test.use({ devices: ['brine_pump_m2', 'brush_belt_m1'] });

const table = new URL('../../demo/tables/brine_pump_m2_parameters.csv', import.meta.url);

test('the parameters of a device that has only a manual: from its table, corrected by hand, kept, found again when a place is mistyped', async ({
  page,
  request,
  cellId,
}) => {
  const pump = async () =>
    (await stored(request, cellId)).cell.devices.find((d) => d.name === 'brine_pump_m2')!;
  await openView(page, cellId, 'parameters');
  await page.getByLabel('device', { exact: true }).selectOption({ label: 'brine_pump_m2 (33)' });
  await page.getByRole('button', { name: 'List and import' }).click();
  await page.getByLabel('Open a file').setInputFiles({
    name: 'parameters.csv',
    mimeType: 'text/csv',
    buffer: readFileSync(table),
  });
  const lens = page.getByLabel('Parameter', { exact: true });
  await expect(lens.getByRole('heading', { name: '8 parameters' })).toBeVisible();
  // Reference 40101 is address 100: the first register has the number 40001.
  await expect(lens.getByLabel('the first register is')).toHaveValue('40001');
  const rows = page.getByRole('table', { name: 'parameters' }).getByRole('row');
  await expect(rows.filter({ hasText: 'Ramp up time' })).toContainText('holding 100');
  expect((await pump()).description.parameters).toHaveLength(33);
  await lens.getByRole('button', { name: 'Take them instead of the 33' }).click();
  await expect.poll(async () => (await pump()).description.parameters.length).toBe(8);
  // 10.0 s in the table is the raw number 100.
  expect((await pump()).description.parameters.find((p) => 'code' in p && p.code === 'P1')).toMatchObject({
    ...{ code: 'P1', name: 'Ramp up time', group: 'Starting', unit: 's' },
    ...{
      place: { way: 'register', table: 'holding', start: 100 },
      scale: { factor: '1/10' },
      initial: '10.0',
    },
  });

  // A place that another one has is a finding, and it leads back to the parameter.
  await page.getByRole('button', { name: 'Start voltage' }).click();
  await lens.getByLabel('place').fill('holding 100');
  await lens.getByLabel('place').blur();
  await expect(lens).toContainText('stand at the same place');
  await lens.getByLabel('place').fill('register twelve');
  await lens.getByLabel('place').blur();
  await expect(page.getByText('register twelve is no place of a parameter')).toBeVisible();
  await expect(lens.getByLabel('place')).toHaveValue('holding 100');
  await lens.getByLabel('place').fill('holding 101');
  await lens.getByLabel('place').blur();
  await expect(lens).not.toContainText('stand at the same place');

  await page.getByRole('button', { name: 'Add parameter' }).click();
  await expect.poll(async () => (await pump()).description.parameters.length).toBe(9);
  await lens.getByRole('button', { name: 'Remove this parameter' }).click();
  await expect.poll(async () => (await pump()).description.parameters.length).toBe(8);
  const csv = await (
    await request.get(`/api/cells/${cellId}/devices/${(await pump()).id}/parameters/csv`)
  ).text();
  expect(csv).toContain('"Ramp up time"');
});

test('what the lights of a device say in its revision is entered where the device stands', async ({
  page,
  request,
  cellId,
}) => {
  const belt = async () =>
    (await stored(request, cellId)).cell.devices.find((d) => d.name === 'brush_belt_m1')!;
  await openView(page, cellId, 'line-up');
  await page.getByLabel('name of brush_belt_m1', { exact: true }).click();
  await openSection(page, 'Lights');
  const lights = page.getByLabel('what its lights say in this revision');
  await lights.fill('drive: blinking = ramps');
  await lights.blur();
  await expect(page.getByText('drive: blinking = ramps does not say what a light shows')).toBeVisible();
  await lights.fill('drive: 2 pulses red = too hot\ndrive: off = no mains');
  await lights.blur();
  await expect
    .poll(async () => (await belt()).description.lights)
    .toEqual([
      { light: 'drive', colour: 'red', pattern: '2 pulses', means: 'too hot' },
      { light: 'drive', colour: 'off', pattern: 'steady', means: 'no mains' },
    ]);
});
