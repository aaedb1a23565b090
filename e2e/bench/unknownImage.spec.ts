import type { Locator, Page } from '@playwright/test';
import { demoFile, expect, makeCell, openView, stored, test } from '../page.js';
import { setBit, writeNumber } from './commands.js';

/**
 * An image of 64 bytes that nobody has laid out, of a device whose own layout is drawn by lot here: seven bits and two
 * values are found and named by what changes, and by nothing else.
 */
const named = [
  'network_controls',
  'network_reference',
  'running_forward',
  'at_reference',
  'running_reverse',
  'warning',
  'faulted',
  'speed_actual',
  'motor_current',
] as const;

interface Laid {
  name: string;
  type: string;
  at: number;
  bits?: number;
  order?: string | null;
}

/** Places for the fields of the drive: bits anywhere, numbers at whole words, either end first. */
function drawn(fields: Laid[], seed: number): Laid[] {
  let state = seed;
  const random = (below: number) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * below);
  };
  const words = Array.from({ length: 32 }, (_, i) => i);
  const taken = (count: number) => {
    const at = words.findIndex((w, i) => i >= random(words.length) && words[i + count - 1] === w + count - 1);
    const from = at < 0 ? words.findIndex((w, i) => words[i + count - 1] === w + count - 1) : at;
    return words.splice(from, count)[0]! * 16;
  };
  const flags = taken(2);
  const bits = Array.from({ length: 32 }, (_, i) => i);
  return fields.map((field) => {
    if (field.type === 'BOOL') return { ...field, at: flags + bits.splice(random(bits.length), 1)[0]! };
    const order = random(2) === 0 ? 'little' : 'big';
    return { ...field, at: taken(field.type === 'UDINT' ? 2 : 1), order };
  });
}

const rows = (page: Page): Locator =>
  page.getByRole('table', { name: 'what changed in brush_belt_m1 feedback' }).locator('tbody tr');

/** What changed at once with an act, as the page lists it; what changes by itself aside. */
async function changedBy(page: Page, act: () => Promise<void>): Promise<void> {
  await page.getByRole('button', { name: 'Mark', exact: true }).click();
  await act();
  await page.getByRole('button', { name: 'Mark again' }).click();
}

/** A bit that has turned. */
const turned = (page: Page): Locator => page.getByRole('cell', { name: /^(0 → 1|1 → 0)$/ });

/** The rows, each by its place in the image, in the order in which they changed. */
async function byTime(page: Page, changed: Locator): Promise<Locator[]> {
  const seen = await changed.evaluateAll((all) =>
    all.map((row) => [0, 4].map((column) => (row as HTMLTableRowElement).cells[column]!.innerText.trim())),
  );
  const ms = (text: string) => parseFloat(text) * (/\d s/.test(text) ? 1000 : 1);
  return seen
    .sort(([, a], [, b]) => ms(a!) - ms(b!))
    .map(([place]) => rows(page).filter({ hasText: place! }));
}

/** Names a row of the page. */
async function name(page: Page, row: Locator, as: string): Promise<void> {
  await row.getByPlaceholder('name', { exact: true }).fill(as);
  await row.getByRole('button', { name: 'Add' }).click();
  await expect(rows(page).filter({ hasText: as })).toBeVisible();
}
const startOver = (page: Page) => page.getByRole('button', { name: 'Start over' }).click();

test('seven bits and two values of an unknown image are found and named', async ({ page, request }) => {
  const seed = Date.now() % 100_000;
  console.log(`layout ${seed}`);
  const file = JSON.parse(demoFile) as {
    cell: {
      machine: object[];
      devices: {
        name: string;
        description: { chosen: unknown[]; points: { number: number; size: number; fields: Laid[] }[] };
        links: { feedback: { size: number; fields: Laid[] }; timeoutMultiplier: number }[];
      }[];
    };
  };
  file.cell.devices = file.cell.devices.filter((d) => d.name === 'brush_belt_m1');
  file.cell.machine = [];
  const [drive] = file.cell.devices;
  const point = drive!.description.points.find((p) => p.number === 171)!;
  // All of its layout is drawn, so none of it is its own choice.
  drive!.description.chosen = [];
  point.size = 64;
  point.fields = drawn(point.fields, seed);
  const hidden = point.fields;
  const [link] = drive!.links;
  Object.assign(link!.feedback, { size: 64, fields: [] });
  link!.timeoutMultiplier = 512;
  await request.delete('/api/bench');
  const id = await makeCell(request, file);
  await request.post('/api/bench', { data: { cell: id } });

  await openView(page, id, 'bench?part=changed');
  await expect(page.getByRole('contentinfo')).toContainText('1 of 1 open');
  /** Writes on the other part of the bench; the marks stay. */
  const command = async (write: () => Promise<void>) => {
    await page.getByRole('button', { name: 'Values', exact: true }).click();
    await write();
    await page.getByRole('button', { name: 'What changed?' }).click();
  };
  const soon = () => page.waitForTimeout(700);

  for (const [bit, flag] of [
    ['net_control', 'network_controls'],
    ['net_reference', 'network_reference'],
  ] as const) {
    await changedBy(page, async () => {
      await command(() => setBit(page, bit));
      await soon();
    });
    await expect(rows(page)).toHaveCount(1);
    await name(page, rows(page), flag);
    await startOver(page);
  }

  // It turns: one bit at once, one when the speed is reached, and two numbers of which one is the speed.
  const bits = rows(page).filter({ has: turned(page) });
  const speed = rows(page)
    .filter({ has: page.locator('select') })
    .filter({ hasText: '→ 1000' });
  // The number of its state, one bit of which would else rise with a fault.
  const state = rows(page).filter({ has: page.getByRole('cell', { name: '3 → 4', exact: true }) });
  await changedBy(page, async () => {
    await command(async () => {
      await writeNumber(page, 'speed_reference', 10);
      await setBit(page, 'run_forward');
    });
    // The last to come is that its speed is reached.
    await expect(bits).toHaveCount(2);
    await expect(speed).toHaveCount(1);
    await expect(state).toHaveCount(1);
  });
  // Of the other numbers the state of the drive changes once, the current all the time.
  const current = rows(page)
    .filter({ has: page.locator('select') })
    .filter({ hasNotText: /→ 1000|\d → \d\D*$/ })
    .filter({ hasNot: page.getByRole('cell', { name: '1', exact: true }) });
  await name(page, state, 'state');
  await name(page, speed, 'speed_actual');
  await name(page, current, 'motor_current');
  const [runs, arrives] = await byTime(page, bits);
  await name(page, arrives!, 'at_reference');
  await name(page, runs!, 'running_forward');
  await startOver(page);

  // The other way round: the one bit that is new.
  const unnamed = rows(page).filter({ has: page.getByPlaceholder('name', { exact: true }) });
  await command(async () => {
    await writeNumber(page, 'speed_reference', 0);
    await expect(page.locator('[data-value=speed_actual]')).toHaveText(/^\s*0\b/);
  });
  await changedBy(page, async () => {
    await command(async () => {
      await page
        .getByRole('group', { name: 'write run_forward', exact: true })
        .getByRole('button', { name: '0', exact: true })
        .click();
      await writeNumber(page, 'speed_reference', 10);
      await setBit(page, 'run_reverse');
    });
    await expect(unnamed.filter({ has: turned(page) })).toHaveCount(1);
  });
  await name(page, unnamed.filter({ has: turned(page) }), 'running_reverse');
  await startOver(page);

  const rises = unnamed.filter({ has: page.getByRole('cell', { name: '0 → 1', exact: true }) });
  // A fault at the device: its overload relay takes its time; what has changed so far is seen meanwhile.
  await changedBy(page, async () => {
    await request.post('/api/bench/inject', {
      data: { device: 'm1', fault: { fault: 'device', id: 'jammed' } },
    });
    // It warns first, and trips after a while; a busy computer may see both at once.
    await expect(rises).not.toHaveCount(0);
    const [warning] = await byTime(page, rises);
    await name(page, warning!, 'warning');
    await expect(rises).not.toHaveCount(0);
  });
  await name(page, rises.first(), 'faulted');

  const placeOf = (fields: Laid[], one: string) => {
    const field = fields.find((f) => f.name === one);
    const bit = field?.type === 'BOOL';
    return field && { name: one, at: field.at, order: bit ? null : (field.order ?? 'little') };
  };
  await expect
    .poll(async () => {
      const fields = (await stored(request, id)).cell.devices[0]!.links[0]!.feedback.fields;
      return named.map((one) => placeOf(fields, one));
    })
    .toEqual(named.map((one) => placeOf(hidden, one)));
  await request.delete('/api/bench');
  await request.delete(`/api/cells/${id}`);
});
