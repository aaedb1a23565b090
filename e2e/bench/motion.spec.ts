import type { APIRequestContext, Page } from '@playwright/test';
import { demoFile, expect, makeCell, openView, stored, test } from '../page.js';
import { clearFault, inject, pressArmed, startBench, untilObeyed } from './commands.js';

/** Drive trains, moves by hand and the logic of safety, as a person works with them. */

const part = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click();
const state = (page: Page) => page.getByRole('status', { name: 'state of the move' });
const machine = (page: Page) => page.locator('[data-machine]');

async function openMotion(page: Page, cellId: string, device: string): Promise<void> {
  await openView(page, cellId, 'motion');
  await page.getByRole('group', { name: 'device that moves' }).getByRole('button', { name: device }).click();
}
/** Reads the nameplate that the drive keeps. */
async function readNameplate(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Motor/ }).click();
  await expect(async () => {
    const read = page.getByRole('button', { name: 'Read the nameplate' });
    if (await read.isVisible()) await read.click({ timeout: 2000 });
    await expect(page.getByText('locked')).toBeVisible({ timeout: 10_000 });
  }).toPass();
}
/** Holds a button for a while, and lets it go; the state of the move is looked at meanwhile. */
async function jog(page: Page, button: string, meanwhile: () => Promise<void>): Promise<void> {
  const hold = page.getByRole('button', { name: button });
  await untilObeyed(
    async () => {
      await pressArmed(page, hold);
      await hold.hover();
      await page.mouse.down();
    },
    async () => {
      try {
        await expect(state(page)).toContainText('jog: moves', { timeout: 5000 });
        await meanwhile();
      } finally {
        await page.mouse.up();
      }
    },
  );
  await expect(state(page)).toContainText('at rest');
}
/** Turns it a little, and sees at the machine which way it goes; asks again where it was not seen. */
const turn = (page: Page, way: '1' | '-1'): Promise<void> =>
  untilObeyed(
    async () => {
      const again = page.getByRole('button', { name: 'Not at all' });
      if (await again.isVisible()) {
        await again.click();
        await page.getByRole('button', { name: 'Check again' }).click();
      }
      await pressArmed(page, page.getByRole('button', { name: 'Turn a little' }));
    },
    () => expect(machine(page)).toHaveAttribute('data-machine', way, { timeout: 5000 }),
  );
async function handSpeed(page: Page, speed: string): Promise<void> {
  const entry = page.getByLabel('speed by hand', { exact: true });
  await entry.fill(speed);
  await entry.press('Enter');
}
async function home(page: Page): Promise<void> {
  // As fast as it may be moved by hand: it stands far from its home.
  await handSpeed(page, '100');
  await untilObeyed(
    () => pressArmed(page, page.getByRole('button', { name: 'Home', exact: true })),
    () => expect(state(page)).toContainText('arrived', { timeout: 20_000 }),
  );
}

test.describe('an axis of the demo', () => {
  test.use({ devices: ['rack_lift_a1'] });

  test('a train from its electronic nameplate, a wrong direction that is found and cured, and a jog', async ({
    page,
    cellId,
    request,
  }) => {
    await startBench(page, cellId, ['rack_lift_a1']);
    await openMotion(page, cellId, 'rack_lift_a1');
    await readNameplate(page);
    await expect(page.getByLabel('rated torque, N·m')).toHaveValue('4.8');
    await expect(page.getByLabel('moment of inertia, kg·cm²')).toHaveValue('2.13');
    // What it said is locked; what it did not say is asked for.
    await expect(page.getByLabel('rated torque, N·m')).toBeDisabled();
    await page.getByLabel('maximum speed, rpm').fill('4500');
    await page.getByLabel('maximum speed, rpm').press('Enter');
    await expect(page.getByText('field-oriented, closed loop')).toBeVisible();
    // 40 teeth of 5 mm behind 10 : 1 and 131,072 increments.
    await expect(page.getByText('5/32768')).toBeVisible();
    await expect(page.getByRole('img', { name: 'torque over speed' }).locator('svg')).toBeVisible();
    await part(page, 'For the drive');
    await expect(page.locator('[data-follows="Feed constant"]')).toContainText('200 mm');
    await page.getByRole('button', { name: /^Plan these/ }).click();
    await expect(page.getByRole('button', { name: 'All are planned' })).toBeDisabled();
    await part(page, 'Units of the fields');
    for (const field of ['target_position', 'position_actual'])
      await page.getByRole('checkbox', { name: `${field} follows the train` }).check();

    // Its motor is mounted the other way round.
    const struck = { device: 'a1', fault: { fault: 'device', id: 'crossed' } };
    expect((await request.post('/api/bench/inject', { data: struck })).ok()).toBe(true);
    await part(page, 'By hand');
    await home(page);
    await turn(page, '-1');
    await page.getByRole('button', { name: 'The other way', exact: true }).click();
    await expect(page.getByText('It goes against its sign')).toBeVisible();
    await page.getByRole('button', { name: 'Count against the motor' }).click();
    await part(page, 'Units of the fields');
    await expect(page.getByText('-5/32768 mm').first()).toBeVisible();
    await part(page, 'By hand');
    await home(page);
    // The drive keeps its own limits, and counts as before: it has 5 mm that way.
    await handSpeed(page, '1');
    await jog(page, 'Hold: positive', () =>
      expect(machine(page)).toHaveAttribute('data-machine', '1', { timeout: 5000 }),
    );
    await expect(state(page)).toContainText('it was let go');
    await expect(state(page)).toContainText(/sent after [\d.]+ ms/);
    await handSpeed(page, '100');
    await untilObeyed(
      () => pressArmed(page, page.getByRole('button', { name: 'Step: negative' })),
      () => expect(state(page)).toContainText('step: at rest arrived', { timeout: 10_000 }),
    );
    const { cell } = await stored(request, cellId);
    expect(cell.devices[0]).toMatchObject({ train: { motor: { from: 'nameplate', maximumSpeed: 4500 } } });
  });
});

interface Made {
  name: string;
  kind: string;
  command: object[];
  feedback: object[];
  parameters?: object[];
}
/** A cell with one device on Modbus that is not in the demo, with a layout of its own. Its id. */
async function cellOf(
  request: APIRequestContext,
  { name, kind, parameters = [], ...images }: Made,
): Promise<string> {
  const file = JSON.parse(demoFile) as { cell: { machine: object[]; exchanges: object[]; devices: never[] } };
  const pump = (file.cell.devices as { name: string }[]).find((d) => d.name === 'brine_pump_m2') as never as {
    links: [{ command: { fields: object[] }; feedback: { fields: object[] } }];
    description: { points: { fields: object[] }[]; parameters: object[] };
  };
  const [link] = pump.links;
  const sides = [images.command, images.feedback];
  const made = {
    ...{ ...pump, name, kind, maker: 'Murmel' },
    description: {
      ...{ ...pump.description, parameters },
      points: pump.description.points.map((p, i) => ({ ...p, fields: sides[i] })),
    },
    links: [
      {
        ...link,
        command: { ...link.command, fields: images.command },
        feedback: { ...link.feedback, fields: images.feedback },
      },
    ],
  };
  const cell = { ...file.cell, machine: [], exchanges: [], devices: [made] };
  return makeCell(request, { ...file, cell });
}
const field = (id: string, name: string, at: number, more: object) => ({ id, name, at, ...more });
const bit = (id: string, name: string, at: number, is: string) =>
  field(id, name, at, { type: 'BOOL', bits: 1, role: { is } });

/** A mixer of a made-up maker: forward, reverse and revolutions a minute. */
function mixer(): Made {
  const rpm = { type: 'INT', bits: 16, unit: 'rpm' };
  const plate: [string, string, string, string][] = [
    ['Motor rated power', 'kW', '1/100', '0.75'],
    ['Motor rated speed', 'rpm', '1', '1400'],
    ['Motor rated frequency', 'Hz', '1', '50'],
    ['Motor poles', '', '1', '4'],
    ['Motor inertia', 'kg.cm2', '1/10', '18.5'],
  ];
  return {
    ...{ name: 'mixer_q7', kind: 'variable-speed drive' },
    command: [
      bit('c1', 'ahead', 8, 'forward'),
      bit('c2', 'astern', 9, 'reverse'),
      field('c3', 'turns_wanted', 16, { ...rpm, role: { is: 'speed reference' } }),
    ],
    feedback: [
      bit('f1', 'turning', 8, 'running'),
      field('f2', 'turns', 16, { ...rpm, role: { is: 'speed actual' } }),
    ],
    parameters: plate.map(([title, unit, factor, initial], i) => ({
      ...{ id: `p${i}`, code: `N${i}`, name: title, unit, initial, type: 'UINT', bits: 16 },
      place: { way: 'register', table: 'holding', start: 6000 + i },
      scale: factor === '1' ? null : { factor, offset: '0' },
    })),
  };
}
/** A sledge of a made-up maker: setpoints in hundredths of a millimetre, and its limit switches. */
function sledge(): Made {
  const mm = { type: 'DINT', bits: 32, unit: 'mm', scale: { factor: '1/100', offset: '0' } };
  return {
    ...{ name: 'sledge_z4', kind: 'servo axis' },
    command: [
      bit('c1', 'power', 8, 'enable'),
      bit('c2', 'halt', 9, 'hold'),
      bit('c3', 'reference_run', 10, 'home'),
      bit('c4', 'take_over', 11, 'setpoint strobe'),
      field('c5', 'pace', 16, { type: 'UINT', bits: 16, unit: 'mm/s', role: { is: 'velocity' } }),
      field('c6', 'goal', 32, { ...mm, role: { is: 'position setpoint' } }),
    ],
    feedback: [
      bit('f1', 'powered', 8, 'enabled'),
      bit('f2', 'referenced', 9, 'homed'),
      bit('f3', 'arrived', 10, 'target reached'),
      bit('f4', 'taken', 11, 'setpoint acknowledge'),
      bit('f5', 'end_right', 12, 'limit positive'),
      bit('f6', 'end_left', 13, 'limit negative'),
      field('f7', 'place', 32, { ...mm, role: { is: 'position actual' } }),
    ],
  };
}

/** The role of a field of the feedback image of a cell's first device, as it is stored. */
async function roleOf(request: APIRequestContext, cellId: string, name: string): Promise<string | undefined> {
  const { cell } = await stored(request, cellId);
  const [link] = (cell.devices[0] as never as { links: [{ feedback: { fields: never[] } }] }).links;
  const fields: { name: string; role: { is: string } }[] = link.feedback.fields;
  return fields.find((f) => f.name === name)?.role.is;
}

test('limit switches of an axis that is not in the demo: pressed, seen, wired wrong and found', async ({
  page,
  request,
}) => {
  await request.delete('/api/bench');
  const cellId = await cellOf(request, sledge());
  try {
    await startBench(page, cellId, ['sledge_z4']);
    await openMotion(page, cellId, 'sledge_z4');
    await part(page, 'By hand');
    await home(page);
    await turn(page, '1');
    await page.getByRole('button', { name: 'The way that was meant' }).click();
    const seen = page.locator('[data-switches]');
    const positive = page.getByRole('button', { name: 'press at the positive end' });
    await expect(seen).toHaveAttribute('data-switches', 'waiting');
    await positive.click();
    await expect(seen).toHaveAttribute('data-switches', 'right');
    await expect(page.locator('[data-moved="limit positive"]')).toHaveText('■ 1');
    // What is pressed stops the way towards it, and no other.
    await pressArmed(page, page.getByRole('button', { name: 'Hold: positive' }));
    await jog(page, 'Hold: negative', () =>
      expect(machine(page)).toHaveAttribute('data-machine', '-1', { timeout: 5000 }),
    );
    await positive.click();
    await expect(seen).toHaveAttribute('data-switches', 'waiting');
    // Wired to each other's places, the other one shows it.
    await openView(page, cellId, 'bench');
    await inject(page, 'wire its limit switches to each other’s places');
    await openMotion(page, cellId, 'sledge_z4');
    await part(page, 'By hand');
    await turn(page, '1');
    await page.getByRole('button', { name: 'The way that was meant' }).click();
    await positive.click();
    await expect(seen).toHaveAttribute('data-switches', 'swapped');
    await page.getByRole('button', { name: 'Swap their roles' }).click();
    await expect(seen).toHaveAttribute('data-switches', 'right');
    await expect.poll(() => roleOf(request, cellId, 'end_left')).toBe('limit positive');
  } finally {
    await request.delete('/api/bench');
    await request.delete(`/api/cells/${cellId}`);
  }
});

test('a drive that is not in the demo, on Modbus: nameplate, train, direction, jog', async ({
  page,
  request,
}) => {
  await request.delete('/api/bench');
  const cellId = await cellOf(request, mixer());
  try {
    await startBench(page, cellId, ['mixer_q7']);
    await inject(page, 'cross two phases of its motor: it turns the other way round');
    await openMotion(page, cellId, 'mixer_q7');
    await readNameplate(page);
    // 0.75 kW at 1400 rpm: 5.116 N·m.
    await expect(page.getByLabel('rated power, W')).toHaveValue('750');
    await expect(page.getByText('From power and speed: 5.116 N·m')).toBeVisible();
    await page.getByRole('button', { name: /^What it moves/ }).click();
    await page.getByLabel('what the shaft drives').selectOption({ label: 'rotary table' });
    await page.getByRole('button', { name: /^Gear/ }).click();
    await page.getByLabel('motor revolutions').fill('20');
    await page.getByLabel('motor revolutions').press('Enter');
    await expect(page.getByText('18 °').first()).toBeVisible();
    await part(page, 'By hand');
    await turn(page, '-1');
    await page.getByRole('button', { name: 'The other way', exact: true }).click();
    await expect(page.getByText('Or change two phases of the motor')).toBeVisible();
    // That is done at the motor: the fault goes.
    await openView(page, cellId, 'bench');
    await clearFault(page);
    await openMotion(page, cellId, 'mixer_q7');
    await part(page, 'By hand');
    await jog(page, 'Hold: positive', () =>
      expect(machine(page)).toHaveAttribute('data-machine', '1', { timeout: 5000 }),
    );
    await jog(page, 'Hold: negative', () =>
      expect(machine(page)).toHaveAttribute('data-machine', '-1', { timeout: 5000 }),
    );
  } finally {
    await request.delete('/api/bench');
    await request.delete(`/api/cells/${cellId}`);
  }
});

test.describe('a safety controller', () => {
  test.use({ devices: ['gate_safety_k1'] });

  test('a status bit of a curtain is placed, simulated and approved', async ({ page, cellId }) => {
    await startBench(page, cellId, ['gate_safety_k1']);
    await openView(page, cellId, 'safety');
    const approval = page.getByRole('region', { name: 'approval' });
    await expect(approval).toContainText('Approved by Talgrund maintenance');
    await page.getByRole('button', { name: 'Add a status bit' }).click();
    await expect(approval).toContainText('Not approved');
    const last = page.getByRole('table', { name: 'status bits' }).locator('tbody tr').last();
    await last.getByLabel(/^source of bit/).selectOption({ label: 'gate_curtain' });
    await last.getByLabel(/^what bit/).selectOption({ label: 'a beam' });
    for (const [entry, value] of [
      ['offset of bit 5', '1'],
      ['bit of bit 5', '2'],
      ['beam of bit 5', '4'],
    ] as const) {
      await last.getByLabel(entry, { exact: true }).fill(value);
      await last.getByLabel(entry, { exact: true }).press('Enter');
    }
    await expect(last).toContainText('beam 4 of gate_curtain arrives');
    // Of what stands between 55 and 95 mm, the beams at 60 and 80 mm are dark: 4 and 5.
    await page.getByLabel('place of what is in the way of gate_curtain').fill('55');
    await page.getByLabel('size of what is in the way of gate_curtain').fill('40');
    await expect(page.locator('[data-seen=gate_curtain]')).toHaveText('seen: 40 ± 20 mm, from 60 ± 20 mm');
    await expect(last.locator('td').nth(-3)).toHaveText('□ 0');
    await expect(last.locator('td').nth(-2)).toHaveText('□ 0');
    await expect(page.locator('[data-block=drives_enabled]')).toHaveText('□ 0');
    await page.getByLabel('size of what is in the way of gate_curtain').fill('0');
    await expect(last.locator('td').nth(-2)).toHaveText('■ 1');
    // It waits for its reset, which acts when it is let go.
    await expect(page.locator('[data-bench=restart_wanted]')).toHaveText('■ 1');
    await page.getByRole('button', { name: 'hold reset_button' }).click({ delay: 400 });
    await expect(page.locator('[data-block=drives_enabled]')).toHaveText('■ 1');
    await expect(page.locator('[data-bench=gate_clear]')).toHaveText('■ 1');
    // Wired in the drawing: the stop button to an or, and away again.
    const drawing = page.getByRole('group', { name: 'drawing of the network' });
    await page.getByLabel('new block').selectOption({ label: 'or' });
    await page.getByRole('button', { name: 'Add block' }).click();
    const node = (name: string) =>
      drawing.locator('.svelte-flow__node', { has: page.locator(`[data-block=${name}]`) });
    await node('stop_button').locator('.source').dragTo(node('or_1').locator('.target').first());
    await expect(page.getByLabel('what 1 reads')).toHaveValue(/./);
    await expect(page.locator('[data-block=or_1]')).toHaveText('■ 1');
    await drawing.locator('.svelte-flow__edge').last().click({ force: true });
    await page.keyboard.press('Backspace');
    await expect(page.locator('[data-block=or_1]')).toHaveText('□ 0');
    await page.getByRole('button', { name: 'Remove the block' }).click();
    await page.getByLabel('approved by').fill('R. Prüfer');
    await page.getByRole('button', { name: 'Approve' }).click();
    await expect(approval).toContainText('Approved by R. Prüfer');
    await page.getByRole('button', { name: /^gate_curtain/ }).click();
    await page.getByLabel('from beam to beam, mm').fill('25');
    await page.getByLabel('from beam to beam, mm').press('Enter');
    await expect(approval).toContainText('Not approved');
  });
});
