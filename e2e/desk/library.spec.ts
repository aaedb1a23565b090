import { readFileSync } from 'node:fs';
import { expectAccessible } from '../accessible.js';
import { demoFile, expect, makeCell, openView, stored, test } from '../page.js';

test.use({ devices: ['brush_belt_m1', 'port_hub_g1'] });

const describer = (name: string) => readFileSync(new URL(`../../demo/describers/${name}`, import.meta.url));

test('a search, two revisions side by side, and a device replaced by the other one', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up/library');
  await page.getByRole('searchbox', { name: 'find' }).fill('quellwerk drive');
  const rows = page.getByRole('main').getByRole('row');
  await expect(rows).toHaveCount(3);
  await rows.filter({ hasText: '1.1' }).getByRole('button').click();
  const lens = page.getByLabel('Describer', { exact: true });
  await lens.getByLabel('another revision').selectOption({ index: 1 });
  const differs = lens.getByRole('list', { name: 'what differs' });
  await expect(differs.first()).toContainText(
    'motor_current byte 4.0, 16 bits, A, × 1/100 → byte 6.0, 16 bits, A, × 1/100',
  );
  await lens.getByLabel('a device of the cell').selectOption({ label: 'brush_belt_m1' });
  await expect(differs.last().getByRole('listitem')).toHaveCount(6);
  // at_reference, and a parameter of the newer revision.
  await expect(lens).toContainText('2 move, 2 go, 0 come');
  await expectAccessible(page);
  await lens.getByRole('button', { name: 'Replace brush_belt_m1' }).click();
  const belt = async () =>
    (await stored(request, cellId)).cell.devices.find((d) => d.name === 'brush_belt_m1')!;
  await expect
    .poll(async () => (await belt()).links[0]!.feedback.fields.find((f) => f.name === 'motor_current')?.at)
    .toBe(48);
  expect((await belt()).address).toBe('192.168.40.21');
});

test('an IO-Link device is put at a port of its master, with its parameters', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  await page.getByLabel('From a file').setInputFiles({
    name: 'silberdistel_lv2_iodd.zip',
    mimeType: 'application/zip',
    buffer: describer('silberdistel_lv2_iodd.zip'),
  });
  const lens = page.getByLabel('Device', { exact: true });
  await expect(lens.getByRole('heading', { name: 'LV2 level sensor' })).toBeVisible();
  await lens.getByRole('radio').nth(1).check();
  await lens.getByLabel('from byte').fill('24');
  await expect(lens.getByRole('list', { name: 'feedback fields' }).getByRole('listitem')).toHaveText([
    /distance\s*24\.0 UINT 16/,
    /echo\s*26\.0 UINT 16/,
  ]);
  // Ports 1 to 3 have their devices already.
  await lens.getByRole('button', { name: 'Put it at port 4' }).click();
  const hub = async () => (await stored(request, cellId)).cell.devices.find((d) => d.name === 'port_hub_g1')!;
  await expect
    .poll(async () =>
      (await hub()).links[0]!.feedback.fields.filter((f) => f.at >= 24 * 8).map((f) => f.name),
    )
    .toEqual(expect.arrayContaining(['distance', 'echo']));
  expect((await hub()).description.parameters).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ place: { way: 'port', port: 4, index: 90, subindex: 0 } }),
    ]),
  );
});

test('the modules of a PROFINET device: what an insertion moves is said before', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up/library');
  await page.getByRole('button', { name: 'MR5 arm', exact: true }).click();
  const lens = page.getByLabel('Describer', { exact: true });
  await lens.getByLabel('module', { exact: true }).selectOption({ label: 'Pose' });
  await lens.getByLabel('before').selectOption({ label: 'Registers' });
  await expect(lens.getByRole('list', { name: 'what it moves' }).getByRole('listitem')).toHaveText([
    '◂ Registers: byte 8 → byte 20',
    '◂ Pose: new → byte 8',
  ]);
  await lens.getByRole('button', { name: 'Plug it into slot 4' }).click();
  await expect(lens.getByRole('row').filter({ hasText: 'Pose' })).toContainText('8–19');

  // The device of the cell keeps its slots; its images are the submodules' bytes behind each other.
  await lens.getByLabel('name').fill('wheel_turner_r2');
  await lens.getByRole('button', { name: 'Add', exact: true }).click();
  const robot = async () =>
    (await stored(request, cellId)).cell.devices.find((d) => d.name === 'wheel_turner_r2') as unknown as
      | { links: { protocol: string; slots: { title: string }[]; feedback: { size: number } }[] }
      | undefined;
  await expect.poll(async () => (await robot())?.links[0]?.feedback.size).toBe(24);
  expect((await robot())!.links[0]!.slots.map((s) => s.title).slice(3)).toEqual([
    'Status',
    'Command',
    'Pose',
    'Registers',
  ]);

  // It goes by a name on the wire, and so does the controller; the devices of other protocols do not.
  const device = page.getByLabel('Device', { exact: true });
  await openView(page, cellId, 'line-up');
  await page.getByLabel('name of brush_belt_m1').click();
  await expect(device.getByRole('heading', { level: 2 })).toHaveText('brush_belt_m1');
  await expect(device.getByText('station name', { exact: true })).toHaveCount(0);
  await page.getByLabel('name of wheel_turner_r2').click();
  await expect(device.locator('.lens-row').filter({ hasText: 'station name' })).toContainText(
    'wheel-turner-r2',
  );
  await page.getByRole('link', { name: 'Addresses' }).click();
  for (const [name, goesBy] of [
    ['store_plc_c1', 'store-plc-c1'],
    ['wheel_turner_r2', 'wheel-turner-r2'],
    ['brush_belt_m1', ''],
  ] as const)
    await expect(page.getByRole('row').filter({ hasText: name }).getByRole('cell').nth(3)).toHaveText(goesBy);

  // A module is taken out again, for the device that is there.
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByRole('button', { name: 'MR5 arm', exact: true }).click();
  await lens.getByLabel('for which device').selectOption({ label: 'wheel_turner_r2' });
  await lens.getByRole('button', { name: 'take Pose out of slot 4' }).click();
  await lens.getByRole('button', { name: 'Change wheel_turner_r2' }).click();
  await expect.poll(async () => (await robot())?.links[0]?.feedback.size).toBe(12);
});

test('200 devices: every way to look at them answers quickly and needs no horizontal scrolling', async ({
  page,
  request,
}) => {
  const file = JSON.parse(demoFile) as { cell: { devices: Record<string, unknown>[]; network: object } };
  // One with few parameters: two hundred of the drive's are 7 MB.
  const first = file.cell.devices.find(({ id }) => id === 'p1');
  file.cell.network = { subnet: '192.168.40.0/23' };
  file.cell.devices = Array.from({ length: 200 }, (_, i) => ({
    ...(JSON.parse(JSON.stringify(first).replaceAll(/"p1(-|")/g, `"p1x${i}$1`)) as object),
    name: `marker_p${i + 1}`,
    designation: `-P${i + 1}`,
    address: `192.168.${40 + (i >> 7)}.${(i % 128) + 30}`,
  }));
  const id = await makeCell(request, file);
  for (const view of ['line-up/reticle', 'line-up/addresses', 'line-up/wire', 'line-up']) {
    await openView(page, id, view);
    const gaps = await page.evaluate(async () => {
      const main = document.querySelector('main')!;
      const all: number[] = [];
      for (let i = 0, last = performance.now(); i < 40; i += 1) {
        main.scrollTop += 80;
        const now = await new Promise<number>((done) => requestAnimationFrame(done));
        all.push(now - last);
        last = now;
      }
      return all.sort((a, b) => a - b);
    });
    console.log(
      `200 devices, ${view}: median frame ${gaps[20]!.toFixed(1)} ms, p95 ${gaps[38]!.toFixed(1)} ms`,
    );
    const wide = await page.evaluate(
      () =>
        [document.documentElement, ...document.querySelectorAll('main, aside')].filter(
          (e) => e.scrollWidth > e.clientWidth,
        ).length,
    );
    expect(wide).toBe(0);
  }
  await page.getByLabel('filter the devices').fill('p150');
  await expect(page.getByRole('main').getByRole('row')).toHaveCount(3);
  await request.delete(`/api/cells/${id}`);
});
