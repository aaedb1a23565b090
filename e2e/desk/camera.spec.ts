import { readFileSync } from 'node:fs';
import type { APIRequestContext, Locator, Page } from '@playwright/test';
import { reach } from '../keyboard.js';
import { changeCell, expect, openView, stored, test } from '../page.js';

test.use({ devices: ['brush_belt_m1', 'wheel_scale_b1', 'rind_camera_v1'] });

const table = readFileSync(new URL('../rind_camera_v1.tsv', import.meta.url), 'utf8');

/** rind_camera_v1 as the manual's front page has it, 344 bytes back and nothing laid out, in place of the demo's. */
async function addCamera(request: APIRequestContext, cellId: string): Promise<void> {
  const { cell } = await stored(request, cellId);
  const camera = structuredClone(cell.devices[0]) as unknown as {
    [key: string]: unknown;
    description: object;
    links: { id: string; command: Record<string, unknown>; feedback: Record<string, unknown> }[];
  };
  Object.assign(camera, {
    ...{ id: 'v1', name: 'rind_camera_v1', designation: '=RS3+U1-V1', kind: 'vision sensor' },
    ...{ address: '192.168.40.61', simulated: false },
    description: { ...camera.description, parameters: [] },
  });
  const [link] = camera.links;
  link!.id = 'v1-link';
  const empty = { fields: [], groups: [] };
  Object.assign(link!.command, { id: 'v1-cmd', size: 16, start: 600, ...empty });
  Object.assign(link!.feedback, { id: 'v1-fb', size: 344, start: 900, ...empty, derived: [] });
  await changeCell(request, cellId, { edit: 'device.remove', device: 'v1' });
  await changeCell(request, cellId, { edit: 'device.add', device: camera });
}

/** Goes on with Tab, as a person without a mouse would, until this has the focus: seconds where much lies before it. */
async function tabTo(page: Page, target: Locator): Promise<void> {
  // It may be drawn anew on the way; to look for it at each step takes longer than the steps.
  for (let around = 0; around < 2; around += 1) {
    const element = await target.elementHandle();
    for (let n = 0; n < 250; n += 1) {
      if (await page.evaluate((e) => e === document.activeElement, element)) return;
      await page.keyboard.press('Tab');
    }
  }
  throw new Error('it cannot be reached by Tab');
}
const feedbackOf = async (request: APIRequestContext, cellId: string, device: string) =>
  (await stored(request, cellId)).cell.devices.find((d) => d.name === device)!.links[0]!.feedback.fields;

test('the camera’s 344 bytes from a pasted table: a mistyped base is found, cured and compared, by keyboard alone', async ({
  page,
  context,
  request,
  cellId,
}) => {
  await addCamera(request, cellId);
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openView(page, cellId, 'line-up');
  await page.evaluate((text) => navigator.clipboard.writeText(text), table);

  await page.keyboard.press('ControlOrMeta+k');
  await page.keyboard.type('rind_camera_v1 feedback');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/sight$/);
  await page.keyboard.press('t');
  await expect(page).toHaveURL(/sight\/table$/);
  await page.keyboard.press('ControlOrMeta+v');

  // The columns and the base are guessed; every row is understood.
  const lens = page.getByLabel('How the table is read');
  await expect(lens.getByRole('heading', { name: '143 fields' })).toBeVisible();
  await expect(lens.getByLabel('base of the addresses')).toHaveValue('1');
  await expect(page.getByLabel('column 6 is')).toHaveValue('unit');

  // A mistyped base is doubted before anything is taken, and taken all the same.
  await tabTo(page, lens.getByLabel('base of the addresses'));
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('0');
  await expect(lens.getByText(/checksum lies past the end/).first()).toBeVisible();
  await tabTo(page, lens.getByRole('button', { name: 'Take 143 fields' }));
  await page.keyboard.press('Enter');
  // The view stays, for the table of the other side.
  await expect.poll(async () => (await feedbackOf(request, cellId, 'rind_camera_v1'))[0]?.at).toBe(8);

  // A copy keeps the wrong layout.
  await page.keyboard.press('ControlOrMeta+k');
  await page.keyboard.type('go to line-up');
  await page.keyboard.press('Enter');
  await reach(page.getByLabel('name of rind_camera_v1'));
  await reach(page.getByRole('button', { name: 'Add the copy' }));
  await expect(page.getByLabel('copies to be added')).toContainText('rind_camera_v2');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await stored(request, cellId)).cell.devices.map((d) => d.name))
    .toContain('rind_camera_v2');

  // The finding leads to the image, and its cure is one key.
  await reach(page.getByRole('button', { name: /findings/ }));
  await page.keyboard.press('Enter');
  const doubt = page
    .getByLabel('Findings')
    .locator('div')
    .filter({ hasText: 'lies past the end of rind_camera_v1' });
  await reach(doubt.getByRole('button', { name: 'Move all fields forward by 1 byte' }).first());
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await feedbackOf(request, cellId, 'rind_camera_v1'))[0]?.at).toBe(0);
  const cured = await feedbackOf(request, cellId, 'rind_camera_v1');
  expect(cured.find((f) => f.name === 'checksum')).toMatchObject({ at: 340 * 8, bits: 32, type: 'UDINT' });
  expect(cured.find((f) => f.name === 'inspection_time')).toMatchObject({ at: 8 * 8, bits: 16 });

  // Compared with the copy, each of its fields has moved.
  await page.keyboard.press('ControlOrMeta+k');
  await page.keyboard.type('rind_camera_v1 feedback');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/sight$/);
  await page.keyboard.press('d');
  await expect(page).toHaveURL(/compare$/);
  await expect(page.getByTestId('count-moved')).toHaveText('143');
  await expect(page.getByTestId('count-missing')).toHaveText('0');
  await expect(page.getByLabel('differences').getByRole('row').nth(1)).toContainText('0.0 → 1.0');

  // Undo brings the wrong base back, redo the right one.
  await page.keyboard.press('Escape');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('ControlOrMeta+z');
  await expect(page.getByTestId('count-moved')).toHaveText('0');
  await page.keyboard.press('ControlOrMeta+Shift+z');
  await expect(page.getByTestId('count-moved')).toHaveText('143');
});

test('the fields leave as XLSX and CSV, and come back as they were; a file that is no workbook says so', async ({
  page,
  request,
  cellId,
}) => {
  await addCamera(request, cellId);
  const before = (await stored(request, cellId)).cell.devices.find((d) => d.name === 'wheel_scale_b1')!;
  const image = (before.links[0]!.feedback as unknown as { id: string }).id;
  for (const form of ['xlsx', 'csv']) {
    const answer = await request.get(`/api/cells/${cellId}/images/${image}/${form}`);
    expect(answer.headers()['content-disposition']).toContain(`wheel_scale_b1_feedback.${form}`);
    await openView(page, cellId, 'sight/table');
    await page.getByLabel('device', { exact: true }).selectOption({ label: 'rind_camera_v1' });
    await page
      .getByText('Open a file')
      .locator('input')
      .setInputFiles({
        name: `x.${form}`,
        mimeType: 'application/octet-stream',
        buffer: await answer.body(),
      });
    await expect(page.getByRole('heading', { name: '17 fields' })).toBeVisible();
    await page.getByLabel(/^replace its/).check();
    await page.getByRole('button', { name: 'Take 17 fields', exact: true }).click();
    await expect.poll(async () => (await feedbackOf(request, cellId, 'rind_camera_v1')).length).toBe(17);
    const back = await feedbackOf(request, cellId, 'rind_camera_v1');
    const plain = (fields: unknown[]) => {
      const names = new Map((fields as { id: string; name: string }[]).map((f) => [f.id, f.name]));
      return JSON.stringify(fields, (key, value: unknown) =>
        key === 'id' ? undefined : key === 'field' ? names.get(value as string) : value,
      );
    };
    expect(plain(back)).toBe(plain([...before.links[0]!.feedback.fields].sort((a, b) => a.at - b.at)));
  }
  await openView(page, cellId, 'sight/table');
  const { version } = await stored(request, cellId);
  await page
    .getByText('Open a file')
    .locator('input')
    .setInputFiles({
      name: 'x.xlsx',
      mimeType: 'application/octet-stream',
      buffer: Buffer.from('no zip'),
    });
  await expect(page.getByRole('status')).toContainText('no workbook that can be read');
  expect((await stored(request, cellId)).version).toBe(version);
});

test('the byte map prints on A4, headings on every page', async ({ page, request, cellId }) => {
  await addCamera(request, cellId);
  await openView(page, cellId, 'sight/print');
  await page.getByLabel('device', { exact: true }).selectOption({ label: 'rind_camera_v1' });
  await expect(page.locator('.byte-map')).toContainText('344 bytes');
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
  expect(pdf.match(/\/Type\s*\/Page[^s]/g)!.length).toBeGreaterThan(3);
  // ISO 216: A4 is 210 × 297 mm, 595 × 842 points.
  expect(pdf).toMatch(/\/MediaBox\s*\[0 0 59[45][.\d]* 84[12][.\d]*\]/);
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Views' })).toBeHidden();
});
