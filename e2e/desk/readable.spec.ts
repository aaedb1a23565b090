import type { APIRequestContext, Page } from '@playwright/test';
import { demoFile, expect, openView, test } from '../page.js';
import { unreadable } from '../readable.js';

/** Every view of a cell, each way to look at it. */
const views = [
  'line-up',
  'line-up/reticle',
  'line-up/wire',
  'line-up/addresses',
  'parameters',
  'line-up/library',
  'sight',
  'sight/table',
  'sight/compare',
  'bench',
  'bench?part=changed',
  'exchanges',
  'motion',
  'motion?part=fields',
  'motion?part=drive',
  'motion?part=hand',
  'safety',
  'hand-over',
];

/** The demo with names of 64 characters everywhere. */
function longNames(): object {
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
  const long = (stem: string, n: number) =>
    `${stem}_für_die_Förderbänder_über_den_Käsewannen_im_Reiferaum_Süd_`.slice(0, 60) +
    String(n).padStart(4, '0');
  const { cell } = file;
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
  return file;
}

async function walk(page: Page, id: string): Promise<string[]> {
  const all: string[] = [];
  for (const [width, height] of [
    [1280, 800],
    [1920, 1080],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const view of views) {
      await openView(page, id, view);
      await page.waitForTimeout(300);
      for (const { text, why } of await page.evaluate(unreadable))
        all.push(`${view} at ${width}: ${why}: ${text}`);
    }
  }
  return all;
}

const post = async (request: APIRequestContext, file: object): Promise<string> =>
  ((await (await request.post('/api/cells', { data: file })).json()) as { id: string }).id;

test('nothing is smaller than 12 px, and nothing is cut, in the demo', async ({ page, cellId }) => {
  expect(await walk(page, cellId)).toEqual([]);
});

test('nothing is smaller than 12 px, and nothing is cut, with names of 64 letters', async ({
  page,
  request,
}) => {
  const id = await post(request, longNames());
  expect(id).toBeTruthy();
  expect(await walk(page, id)).toEqual([]);
  await request.delete(`/api/cells/${id}`);
});
