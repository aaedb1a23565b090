import { readFileSync, writeFileSync } from 'node:fs';
import { expectAccessible } from '../accessible.js';
import { expect, openSection, openView, stored, test } from '../page.js';

test.use({ devices: ['brush_belt_m1'] });

const file = readFileSync(new URL('../../demo/describers/murmel_px8.eds', import.meta.url));
const eds = (name: string, buffer: Buffer) => ({ name, mimeType: 'text/plain', buffer });

test('a data sheet with faults is understood, doubted, added, and the device copied three times', async ({
  page,
  request,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  const choose = page.getByLabel('From a file');
  await choose.setInputFiles(eds('murmel_px8.eds', file));
  const lens = page.getByLabel('Device', { exact: true });
  await expect(lens.getByRole('heading', { name: 'Murmel PX-8 process I/O' })).toBeVisible();
  const wrong = lens.getByRole('list', { name: 'wrong in the file' }).getByRole('listitem');
  await expect(wrong).toHaveCount(2);
  await expect(wrong.first()).toContainText('line 46 The semicolon at the end of the entry is missing.');
  await expect(wrong.last()).toContainText('Group2 states 2 members and lists 1.');
  // Nothing is stored before it is accepted.
  expect((await stored(request, cellId)).cell.devices).toHaveLength(1);
  await expectAccessible(page);

  await lens.getByLabel('name').fill('climate_io_u1');
  await lens.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByLabel('name of climate_io_u1')).toBeVisible();
  const second = async () => (await stored(request, cellId)).cell.devices[1];
  await expect.poll(async () => (await second())?.name).toBe('climate_io_u1');
  expect((await second())!.links[0]!.feedback.fields.map((f) => [f.name, f.at, f.type])).toContainEqual([
    'room_temperature',
    16,
    'UINT',
  ]);

  await lens.getByLabel('copies', { exact: true }).fill('3');
  await lens.getByRole('button', { name: /^Add .*cop/ }).click();
  await expect
    .poll(async () => (await stored(request, cellId)).cell.devices.map((d) => d.name))
    .toEqual(['brush_belt_m1', 'climate_io_u1', 'climate_io_u2', 'climate_io_u3', 'climate_io_u4']);

  // What leaves as a data sheet says the same again.
  await openSection(page, 'Files');
  const download = page.waitForEvent('download');
  await lens.getByRole('button', { name: 'Download EDS' }).click();
  const written = readFileSync(await (await download).path());
  await choose.setInputFiles(eds('again.eds', written));
  await expect(wrong).toHaveText('Nothing.');
  await expect(lens).toContainText('12 fields');
});

test('a file that is none is said to be none, and one of 2.5 MB does not hold the page up', async ({
  page,
  cellId,
}, testInfo) => {
  await openView(page, cellId, 'line-up');
  const choose = page.getByLabel('From a file');
  const lens = page.getByLabel('Device', { exact: true });
  await choose.setInputFiles(eds('photo.eds', Buffer.from([0xff, 0xd8, 0xff, 0xe0])));
  await expect(lens.getByRole('alert')).toContainText('no section in brackets');
  // By its path: 25 MB take seconds through the connection to the browser.
  const huge = testInfo.outputPath('huge.eds');
  writeFileSync(huge, Buffer.alloc(25_000_000, 0x20));
  await choose.setInputFiles(huge);
  await expect(lens.getByRole('alert')).toContainText('more than 5000000 characters');
  const parameter = (n: number) =>
    `Param${n} = 0,6,"20 0F 24 01 30 01",0,0xC7,2,"Value ${n}","ms","help",0,100,5,1,1,1,0,,,,,0;\n`;
  const many = Array.from({ length: 8000 }, (_, n) => parameter(n + 2001)).join('');
  await choose.setInputFiles(
    eds('large.eds', Buffer.from(file.toString().replace('[Groups]', `${many}[Groups]`))),
  );
  // The page answers while the worker reads.
  await page.getByRole('combobox', { name: /^Find/ }).fill('brush');
  await expect(page.getByRole('option').first()).toBeVisible();
  await expect(lens).toContainText('8021');
});

test('texts of a description are read in another language, and what is missing in it is said', async ({
  page,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  const sensor = readFileSync(new URL('../../demo/describers/murmel_pt3_iodd.xml', import.meta.url));
  await page
    .getByLabel('From a file')
    .setInputFiles({ name: 'murmel_pt3_iodd.xml', mimeType: 'text/xml', buffer: sensor });
  const lens = page.getByLabel('Device', { exact: true });
  const heading = lens.getByRole('heading', { level: 2 });
  await expect(heading).toHaveText('PT3 pressure sensor');
  const wrong = lens.getByRole('list', { name: 'wrong in the file' });
  await expect(wrong).toContainText('is missing in en');
  await lens.getByLabel('language').selectOption('de');
  await expect(heading).toHaveText('PT3 Drucksensor');
  await expect(wrong).toContainText('is missing in de');
  await lens.getByLabel('language').selectOption('en');
  await expect(heading).toHaveText('PT3 pressure sensor');
});

test('of each kind of file: what was understood, what not, and what is wrong are told apart at a glance', async ({
  page,
  cellId,
}) => {
  await openView(page, cellId, 'line-up');
  for (const [name, heading, facts, kept, wrong] of [
    [
      'oven.eds',
      'Oven door OD2',
      [/protocol\s*EtherNet\/IP/, /assemblies\s*2/],
      'Assembly (1)',
      [14, 15, 17, 19, 21],
    ],
    [
      'axis.xml',
      'Axis A7',
      [/protocol\s*PROFINET/, /modules\s*1/],
      'DeviceAccessPointItem (1)',
      [10, 18, 21, 24],
    ],
    ['level.xml', 'Level L12', [/protocol\s*IO-Link/, /variables\s*1/], 'Features (1)', [10, 13, 18, 18]],
  ] as const) {
    const faulty = readFileSync(new URL(`../faulty/${name}`, import.meta.url));
    await page
      .getByLabel('From a file')
      .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: faulty });
    const lens = page.getByLabel('Device', { exact: true });
    await expect(lens.getByRole('heading', { level: 2 })).toHaveText(heading);
    await expect(lens.getByRole('list', { name: 'how the file was read' }).getByRole('listitem')).toHaveText([
      /✓\s*understood/,
      /◌\s*1 not understood/,
      new RegExp(`▲\\s*${wrong.length} wrong`),
    ]);
    for (const fact of facts) await expect(lens).toContainText(fact);
    await expect(lens).toContainText(kept);
    const lines = lens.getByRole('list', { name: 'wrong in the file' }).getByRole('listitem');
    await expect(lines).toHaveText(wrong.map((line) => new RegExp(`^line ${line} `)));
    // All three parts begin in sight, without scrolling.
    for (const part of [/✓ Understood/, /◌ Not understood/, /▲ Wrong in the file/])
      await expect(lens.getByRole('heading', { name: part })).toBeInViewport();
    await expect(lines.first()).toBeInViewport({ ratio: 1 });
  }
});
