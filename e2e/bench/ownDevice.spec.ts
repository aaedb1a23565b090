import type { APIRequestContext, Page } from '@playwright/test';
import { changeCell, expect, openView, stored, test } from '../page.js';
import { pressArmed, setBit, untilObeyed, writeNumber } from './commands.js';

/**
 * A device that nobody knew, from what its manual gives to a command that its stand-in obeys. A person's clicks are
 * counted: each press of a button, and two for each choice from a list.
 */
test.use({ devices: ['climate_io_u1'] });

const mostClicks = 15;

/** A table as a manual has it, its columns between tabs. */
const table = (rows: readonly (readonly (string | number)[])[]) => rows.map((r) => r.join('\t')).join('\n');
const others = (word: number, words: readonly string[], unit: string) =>
  words.map((name, i) => [word + i, '', name, 'UINT', unit, '']);
const free = (word: number, from: number, to: number) =>
  Array.from({ length: to - from + 1 }, (_, i) => [
    word,
    from + i,
    `reserved_w${word}_${from + i}`,
    'BOOL',
    '',
    '',
  ]);

const head = ['Word', 'Bit', 'Name', 'Type', 'Unit', 'Factor'];
/** 24 fields to the drive of an infeed roller, 36 from it. */
const commandRows = [
  head,
  ...[
    [0, 0, 'Start', 'BOOL', '', ''],
    [0, 1, 'Stop', 'BOOL', '', ''],
    [0, 2, 'Direction', 'BOOL', '', ''],
    [0, 3, 'Fault reset', 'BOOL', '', ''],
  ],
  ...free(0, 4, 15),
  [1, '', 'SpeedRef', 'INT', 'rpm', ''],
  [2, '', 'AccTime', 'UINT', 's', '1/10'],
  [3, '', 'DecTime', 'UINT', 's', '1/10'],
  ...others(4, ['torque_limit_a', 'torque_limit_b', 'window', 'dead_band', 'option_word'], ''),
];
const feedbackRows = [
  head,
  ...[
    [0, 0, 'Ready', 'BOOL', '', ''],
    [0, 1, 'Running', 'BOOL', '', ''],
    [0, 2, 'Faulted', 'BOOL', '', ''],
    [0, 3, 'At speed', 'BOOL', '', ''],
  ],
  ...free(0, 4, 15),
  [1, '', 'SpeedAct', 'INT', 'rpm', ''],
  [2, '', 'FaultCode', 'UINT', '', ''],
  [3, '', 'MotorCurrent', 'UINT', 'A', '1/100'],
  ...others(
    4,
    Array.from({ length: 17 }, (_, i) => `diagnosis_${i + 1}`),
    '',
  ),
];

/** Looks at one side of the device; the undo button may name it, too. */
const lookAt = (page: Page, side: 'command' | 'feedback') =>
  page
    .getByRole('group', { name: 'direction' })
    .getByRole('button', { name: new RegExp(side) })
    .click();

/** Pastes the tables of both sides of a device, and takes what they say with the roles that are proposed. */
async function layOut(page: Page, command: Rows, feedback: Rows): Promise<void> {
  await lookAt(page, 'command');
  await page.getByRole('link', { name: 'Table' }).click();
  for (const [side, rows] of [
    ['command', command],
    ['feedback', feedback],
  ] as const) {
    // The other side's comes next by itself.
    await expect(page.getByRole('group', { name: 'direction' }).locator('[aria-current=true]')).toContainText(
      side,
    );
    await page.getByLabel('rows to read').fill(`${table(rows)}\n`);
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: `Take ${rows.length - 1} fields`, exact: true }).click();
  }
}
type Rows = (string | number)[][];

/** A drive that lost its controller while the computer halted says so, and obeys only after its reset. */
async function resetFault(page: Page, faulted: string, reset: string): Promise<void> {
  const shown = await page.locator(`[data-value="${faulted}"]`).textContent();
  if (shown?.includes('1')) await pressArmed(page, page.getByRole('button', { name: `pulse ${reset}` }));
}

/** Takes the roles that the names of both sides say. */
async function takeRoles(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Image', exact: true }).click();
  for (const side of ['command', 'feedback'] as const) {
    await lookAt(page, side);
    await page.getByRole('button', { name: /^Take \d+$/ }).click();
  }
  // A device that begins to act is another stand-in: what was written to the one before it is gone.
  await expect(page.getByRole('status').filter({ hasText: 'not stored yet' })).toHaveCount(0);
}

/** Lets the link of a new device outlast a halt of this computer: the usual 80 ms do not. */
async function bearHalts(request: APIRequestContext, cellId: string, name: string): Promise<void> {
  const link = async () => {
    const { devices } = (await stored(request, cellId)).cell;
    return (devices.find((d) => d.name === name)?.links[0] as { id: string } | undefined)?.id;
  };
  await expect.poll(link).toBeTruthy();
  const set = { timeoutMultiplier: 512 };
  await changeCell(request, cellId, { edit: 'link.set', link: await link(), set });
}

test('from a pasted table of 60 fields to its stand-in, obeying', async ({
  page,
  request,
  cellId,
  clicks,
}) => {
  expect(commandRows.length + feedbackRows.length - 2).toBe(60);
  await openView(page, cellId, 'line-up');
  await page.getByRole('button', { name: 'Add device' }).click();
  const form = page.getByLabel('Device', { exact: true });
  await form.getByLabel('name').fill('infeed_roller_m7');
  await form.getByLabel('kind').selectOption('variable-speed drive');
  await form.getByLabel('the manual’s line').fill('T→O 105 42 bytes, O→T 106 18 bytes, RPI 20 ms');
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByLabel('name of infeed_roller_m7')).toBeVisible();
  await bearHalts(request, cellId, 'infeed_roller_m7');
  await page.getByRole('link', { name: 'Sight' }).click();
  await layOut(page, commandRows, feedbackRows);
  const device = async () =>
    (await stored(request, cellId)).cell.devices.find((d) => d.name === 'infeed_roller_m7')!;
  await expect
    .poll(async () =>
      (await device()).links[0]!.feedback.fields.flatMap(
        (f) => (f as { role?: { is: string } }).role?.is ?? [],
      ),
    )
    .toEqual(expect.arrayContaining(['ready', 'running', 'speed actual', 'fault code', 'motor current']));

  await page.getByRole('link', { name: 'Bench' }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  const line = page.getByRole('row').filter({ hasText: 'infeed_roller_m7' }).first();
  await expect(line).toContainText('open');
  await untilObeyed(
    async () => {
      await resetFault(page, 'Faulted', 'Fault reset');
      await writeNumber(page, 'SpeedRef', 900);
      await setBit(page, 'Start');
    },
    async () => {
      // 30 Hz, of four poles, with 25 Hz a second.
      await expect(page.locator('[data-value=SpeedAct]')).toContainText('900', { timeout: 15_000 });
      await expect(page.locator('[data-value="At speed"]')).toContainText('1', { timeout: 5000 });
    },
  );
  const counted = await clicks();
  console.log(`pasted table: ${counted} clicks`);
  expect(counted).toBeLessThanOrEqual(mostClicks);
});

test('from a data sheet (EDS)', async ({ page, request, cellId, clicks }) => {
  await openView(page, cellId, 'line-up');
  await page.getByLabel('From a file').setInputFiles({
    name: 'tannhorn_roller.eds',
    mimeType: 'text/plain',
    buffer: Buffer.from(rollerEds),
  });
  const lens = page.getByLabel('Device', { exact: true });
  await expect(lens.getByRole('heading', { name: 'TR roller drive' })).toBeVisible();
  await lens.getByLabel('name').fill('outfeed_roller_m8');
  await lens.getByRole('button', { name: 'Add' }).click();
  await bearHalts(request, cellId, 'outfeed_roller_m8');
  await page.getByRole('link', { name: 'Sight' }).click();
  await takeRoles(page);
  await page.getByRole('link', { name: 'Bench' }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  const line = page.getByRole('row').filter({ hasText: 'outfeed_roller_m8' }).first();
  await expect(line).toContainText('open');
  await untilObeyed(
    async () => {
      await resetFault(page, 'faulted', 'fault_reset');
      await writeNumber(page, 'speed_reference', 12.5);
      await setBit(page, 'run_forward');
    },
    () => expect(page.locator('[data-value=speed_actual]')).toContainText('12.5', { timeout: 15_000 }),
  );
  const counted = await clicks();
  console.log(`EDS: ${counted} clicks`);
  expect(counted).toBeLessThanOrEqual(mostClicks);
});

test('from a list of Modbus registers', async ({ page, cellId, clicks }) => {
  await openView(page, cellId, 'line-up');
  await page.getByRole('button', { name: 'Add device' }).click();
  const form = page.getByLabel('Device', { exact: true });
  await form.getByLabel('name').fill('silo_scale_b8');
  await form.getByLabel('kind').selectOption('weigher');
  await form.getByLabel('protocol').selectOption({ label: 'Modbus TCP' });
  for (const [group, first, count] of [
    ['what is written', '100', '1'],
    ['what is read', '300', '5'],
  ] as const) {
    const run = form.getByRole('group', { name: group });
    await run.getByLabel('first, or its reference').fill(first);
    await run.getByLabel('how many').fill(count);
  }
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByLabel('name of silo_scale_b8')).toBeVisible();
  await page.getByRole('link', { name: 'Sight' }).click();
  const registers = ['Register', 'Bit', 'Name', 'Type', 'Unit', 'Factor'];
  await layOut(
    page,
    [registers, [100, 0, 'Tare', 'BOOL', '', ''], [100, 1, 'Zero', 'BOOL', '', '']],
    [
      registers,
      [300, '', 'Gross weight', 'DINT', 'kg', '1/1000'],
      [302, '', 'Net weight', 'DINT', 'kg', '1/1000'],
      [304, 0, 'Stable', 'BOOL', '', ''],
      [304, 1, 'Overrange', 'BOOL', '', ''],
    ],
  );
  await page.getByRole('link', { name: 'Bench' }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  const line = page.getByRole('row').filter({ hasText: 'silo_scale_b8' }).first();
  await expect(line).toContainText('open');
  const before = await clicks();

  // What stands around it: a line that says what lies on it.
  await page.getByRole('button', { name: 'Machine', exact: true }).click();
  await page.getByLabel('name of the new line').fill('silo_scale_b8.load');
  await page.keyboard.press('Enter');
  const load = page.getByLabel('expression of silo_scale_b8.load', { exact: true });
  await load.fill('7 +');
  await load.press('Enter');
  await expect(page.getByRole('main')).toContainText('cannot be computed');
  await load.fill('7 + 1/4');
  await load.press('Enter');
  await expect(page.locator('[data-machine="silo_scale_b8.load"]')).toHaveText('7.25');
  await page.getByRole('button', { name: 'Values', exact: true }).click();
  await expect(page.locator('[data-value="Gross weight"]')).toContainText('7.25');
  await expect(page.locator('[data-value=Stable]')).toContainText('1');

  // It obeys.
  const between = (await clicks()) - before;
  await setBit(page, 'Tare');
  await expect(page.locator('[data-value="Net weight"]')).toContainText('0.00');
  const counted = (await clicks()) - between;
  console.log(`registers: ${counted} clicks`);
  expect(counted).toBeLessThanOrEqual(mostClicks);
});

/** Made up, as a maker would write it. */
const rollerEds = `$ TR roller drive
[File]
  DescText = "TR roller drive"; CreateDate = 03-02-2026; CreateTime = 08:00:00; ModDate = 03-02-2026; ModTime = 08:00:00; Revision = 1.0;
[Device]
  VendCode = 65031; VendName = "Tannhorn"; ProdType = 2; ProdTypeStr = "AC Drive"; ProdCode = 77; MajRev = 1; MinRev = 1; ProdName = "TR roller drive"; Catalog = "TR-1";
[Params]
  Param1 = 0,,,0x0000,0xD1,1,"run_forward","","",0,1,0,1,1,1,0,,,,,0;
  Param2 = 0,,,0x0000,0xC3,2,"speed_reference","Hz","",-10000,10000,0,1,100,1,0,,,,,2;
  Param3 = 0,,,0x0000,0xD1,1,"running","","",0,1,0,1,1,1,0,,,,,0;
  Param4 = 0,,,0x0000,0xC3,2,"speed_actual","Hz","",-10000,10000,0,1,100,1,0,,,,,2;
  Param5 = 0,,,0x0000,0xD1,1,"fault_reset","","",0,1,0,1,1,1,0,,,,,0;
  Param6 = 0,,,0x0000,0xD1,1,"faulted","","",0,1,0,1,1,1,0,,,,,0;
[Assembly]
  Assem201 = "commands",,4,0x0000,,,1,Param1,1,Param5,14,,16,Param2;
  Assem202 = "answers",,4,0x0000,,,1,Param3,1,Param6,14,,16,Param4;
[Connection Manager]
  Connection1 = 0x04010002, 0x44640405, , 4, Assem201, , 4, Assem202, , , , , "Drive", "", "20 04 24 01 2C C9 2C CA";
`;
