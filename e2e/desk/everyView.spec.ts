import type { Page } from '@playwright/test';
import { expectAccessible, expectNoViolations } from '../accessible.js';
import { demoFile, expect, makeCell, openCells, openView, test } from '../page.js';
import { unreadable } from '../readable.js';

/** Every view of a cell, each way to look at it; the parts of the list run beside each other. */
const views = {
  'the line-up, the sight': [
    ...['line-up', 'line-up/reticle', 'line-up/wire', 'line-up/addresses', 'line-up/library'],
    ...['sight', 'sight/table', 'sight/compare', 'sight/print'],
  ],
  'parameters, hand-over, bench, motion, safety': [
    ...['parameters', 'hand-over', 'exchanges', 'bench', 'bench?part=changed'],
    ...['motion', 'motion?part=fields', 'motion?part=drive', 'motion?part=hand', 'safety'],
  ],
};
/** As it is printed, long names run on below each other. */
const onPaper = 'sight/print';
const sizes = [
  { width: 1280, height: 800 },
  { width: 1920, height: 1080 },
];

const long = (stem: string, n: number) =>
  `${stem}_für_die_Förderbänder_über_den_Käsewannen_im_Reiferaum_Süd_`.slice(0, 60) +
  String(n).padStart(4, '0');

/** The demo with names of 64 characters everywhere: what holds for them holds for shorter ones. */
function longNames(): { file: object; camera: string } {
  const file = JSON.parse(demoFile) as {
    cell: {
      name: string;
      controller: { name: string };
      devices: {
        name: string;
        serves: string;
        safety?: { blocks: { name: string }[] } | null;
        description: { parameters?: { name: string }[]; points: { fields: { name: string }[] | null }[] };
        links: Record<'command' | 'feedback', { fields: { name: string }[] }>[];
      }[];
    };
  };
  const { cell } = file;
  const camera = cell.devices.findIndex(({ name }) => name === 'rind_camera_v1');
  cell.name = long('Zelle', 1);
  cell.controller.name = long('Steuerung', 1);
  cell.devices.forEach((device, d) => {
    device.name = long('Antrieb', d);
    device.serves = long('bewegt', d);
    // Names of blocks have 40 characters at most.
    device.safety?.blocks.forEach((block, i) => (block.name = long('Lichtvorhang', i).slice(-40)));
    device.description.parameters?.forEach((p, i) => (p.name = long('Wert', i)));
    for (const link of device.links)
      for (const image of [link.command, link.feedback])
        image.fields.forEach((field, i) => (field.name = long('Signal', i)));
  });
  return { file, camera: cell.devices[camera]!.name };
}

/** What cannot be read of a view, at each size of the window. */
async function unreadableOf(page: Page, view: string): Promise<string[]> {
  const all: string[] = [];
  for (const size of sizes) {
    await page.setViewportSize(size);
    await page.waitForTimeout(150);
    for (const { text, why } of await page.evaluate(unreadable))
      all.push(`${view} at ${size.width}: ${why}: ${text}`);
  }
  await page.setViewportSize(sizes[0]!);
  return all;
}

for (const [group, all] of Object.entries(views))
  test(`${group}: with names of 64 letters nothing smaller than 12 px or cut; WCAG 2.2 AA by axe in both themes; no horizontal scrolling`, async ({
    page,
    request,
  }) => {
    const { file, camera } = longNames();
    const id = await makeCell(request, file);
    for (const view of all)
      await test.step(view, async () => {
        await openView(page, id, view);
        // The longest image, so that what scrolls does scroll.
        if (view.startsWith('sight'))
          await page.getByLabel('device', { exact: true }).selectOption({ label: camera });
        if (view !== onPaper) expect(await unreadableOf(page, view)).toEqual([]);
        await expectAccessible(page);
      });
    await openCells(page);
    await expectNoViolations(page);
    await request.delete(`/api/cells/${id}`);
  });
