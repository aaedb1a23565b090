import { writeFileSync } from 'node:fs';
import { demoFile, expect, openCells, test } from '../page.js';

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
    ['34 MB', () => `{"x":"${'y'.repeat(34 * 1024 * 1024)}"}`, /may have 33554432/],
    ['a negative size', () => demoFile.replace('"size": 8', '"size": -8'), /points\[0\]\.size/],
    ['a bit offset past the end', past, /would end at bit 64/],
    [
      'a name with NUL',
      () => demoFile.replace('brush_belt_m1', 'brush\\u0000belt'),
      /control or an invisible character/,
    ],
  ];
  test('each says why, one after the other; a proper one comes in whole', async ({
    page,
    request,
    cellId,
  }, testInfo) => {
    const before = (await (await request.get('/api/cells')).json()) as unknown[];
    expect(cellId).toBeTruthy();
    await openCells(page);
    const status = page.getByRole('status');
    for (const [says, text, message] of cases)
      await test.step(says, async () => {
        const path = testInfo.outputPath('cell.json');
        writeFileSync(path, text());
        await page.getByLabel('Import a cell file').setInputFiles(path);
        await expect(status).toContainText(message);
        await expect(status).toContainText('Nothing was stored');
        expect(await (await request.get('/api/cells')).json()).toEqual(before);
      });

    // A proper one is taken in as a cell of its own.
    const named = demoFile.replace('"name": "Ripening Store 3"', '"name": "Käsereifung №3 搬送"');
    await page
      .getByLabel('Import a cell file')
      .setInputFiles({ name: 'cell.json', mimeType: 'application/json', buffer: Buffer.from(named) });
    await expect(page.getByLabel('name of the cell')).toHaveValue('Käsereifung №3 搬送');
    const id = /cells\/([^/]+)/.exec(page.url())![1]!;
    const file = await request.get(`/api/cells/${id}/handover/cell`);
    expect(await file.text()).toBe(named.replace('"id": "ripening-store-3"', `"id": "${id}"`));
    await request.delete(`/api/cells/${id}`);
  });
});
