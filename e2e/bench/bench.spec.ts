import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { expect, loadView, openView, test } from '../page.js';
import {
  choose,
  chooseLabel,
  clearFault,
  inject,
  pressArmed,
  setBit,
  startBench,
  untilObeyed,
} from './commands.js';

/** A press is lost where what arrives meanwhile moves the button away from under it: then one presses again. */
const pin = (page: Page, field: string): Promise<void> =>
  expect(async () => {
    const button = page.getByRole('button', { name: `pin ${field}`, exact: true });
    if ((await button.getAttribute('aria-pressed')) !== 'true') await button.click();
    await expect(button).toHaveAttribute('aria-pressed', 'true', { timeout: 5000 });
  }).toPass();
const causes = (page: Page) => page.getByRole('list', { name: 'likely causes' }).getByRole('listitem');

test.describe(() => {
  test.use({ devices: ['brush_belt_m1', 'wheel_scale_b1', 'port_hub_g1'] });
  test('three faults are named by what the view shows, and are gone when they are taken away', async ({
    page,
    cellId,
    devices,
  }) => {
    await startBench(page, cellId, devices);
    const lights = page.getByRole('list', { name: 'lights' });
    const state = page.getByLabel('State of the device');

    // The cable of the drive: the link is lost, the module light still burns, the link light is dark.
    await choose(page, 'brush_belt_m1');
    await expect(lights).toContainText('flashing green – traffic');
    await inject(page, 'pull the cable');
    await expect(causes(page).first()).toContainText('The cable is out');
    await expect(page.getByText(/▲ stale, last packet \d/)).toBeVisible();
    await expect(lights).toContainText('off – no cable');
    await expect(lights).toContainText('steady green – in order');
    await expect(page.getByRole('row').filter({ hasText: 'brush_belt_m1' })).toContainText(
      /timed out|opens|out of reach/,
    );
    await clearFault(page);
    await expect(page.getByRole('row').filter({ hasText: 'brush_belt_m1' })).toContainText('open');

    // A port of the hub: the link stays green, the port does not.
    await choose(page, 'port_hub_g1');
    await inject(page, 'port 2 loses its load power');
    await expect(causes(page).first()).toContainText('A port has no load power');
    await expect(causes(page).first()).toContainText('port 2');
    await expect(page.getByRole('row').filter({ hasText: 'port_hub_g1' })).toContainText('open');
    await expect(page.locator('[data-value=port_2_valid]')).toContainText('void');
    await clearFault(page);
    await expect(page.locator('[data-value=port_2_valid]')).toContainText('valid');

    // Another controller takes the weigher.
    await choose(page, 'wheel_scale_b1');
    await inject(page, 'let another controller take the outputs');
    await expect(causes(page).first()).toContainText('Another controller owns the outputs');
    await expect(state).toContainText('extended status 16#0106');

    // All three are listed on the trace, which can be saved.
    await page.getByRole('button', { name: 'Trace' }).click();
    const trace = page.getByRole('table', { name: 'trace' });
    for (const fault of ['pull the cable', 'port 2 loses its load power', 'let another controller take'])
      await expect(trace).toContainText(`fault injected: ${fault}`);
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as CSV' }).click();
    const csv = await readFile(await (await download).path(), 'utf8');
    expect(csv).toMatch(/"brush_belt_m1","state",".*open → timed-out/);

    // The traffic that speaks of them can be recorded and taken to a protocol analyser.
    await page.getByRole('button', { name: 'Record traffic' }).click();
    await expect(page.getByText(/^\d{2,} packets$/)).toBeVisible();
    await page.getByRole('button', { name: 'Stop recording' }).click();
    const capture = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Save as pcapng' }).click();
    const bytes = await readFile(await (await capture).path());
    // Type of the section header block (pcapng draft, 4.1).
    expect(bytes.readUInt32LE(0)).toBe(0x0a0d0d0a);
    expect(bytes.length).toBeGreaterThan(1000);
  });
});

test.describe(() => {
  test.use({ devices: ['wheel_scale_b1', 'climate_io_u1'] });
  test('values are written in the Sight, pinned, given for a moment, and recorded', async ({
    page,
    cellId,
    devices,
  }) => {
    await startBench(page, cellId, devices);
    await test.step('what is written in the lens of the Sight reaches the device, once Arm allows it', async () => {
      await page.getByRole('link', { name: 'Sight', exact: true }).click();
      await page.getByLabel('device', { exact: true }).selectOption({ label: 'climate_io_u1' });
      await page.getByRole('button', { name: /command/ }).click();
      const lens = page.getByLabel('Field under the crosshair');
      await expect(lens).toContainText('Arm allows it');
      await setBit(page, 'heater', lens);
      await page.getByRole('button', { name: /feedback/ }).click();
      await expect(lens).toContainText('heater_on');
      await expect(lens.getByText('on', { exact: true })).toBeVisible();

      // A page that is loaded while the bench runs shows its bytes, too.
      await loadView(page, cellId, 'bench');
      await expect(page.locator('[data-value]').first()).not.toContainText('–');
    });

    await test.step('pinned values stay in sight; a code is chosen by its label, a bit given for a moment', async () => {
      await choose(page, 'wheel_scale_b1');
      await pin(page, 'last_command');
      await choose(page, 'climate_io_u1');
      await pin(page, 'flap');
      const pinned = page.getByRole('list', { name: 'pinned values' });
      await expect(pinned.locator('[data-pinned=last_command]')).toContainText('none');
      await untilObeyed(
        () => pressArmed(page, page.getByRole('button', { name: 'pulse flap' }).first()),
        () => expect(page.locator('[data-value=flap_open]')).toContainText('open', { timeout: 5000 }),
      );
      // It goes back to rest by itself.
      await expect(page.locator('[data-value=flap_open]')).toContainText('closed');
      await untilObeyed(
        async () => {
          await choose(page, 'wheel_scale_b1');
          await chooseLabel(page, 'command', '0 none');
          await chooseLabel(page, 'command', '22 clear tare');
        },
        () =>
          expect(pinned.locator('[data-pinned=last_command]')).toContainText('clear tare', {
            timeout: 10_000,
          }),
      );
      await page.getByRole('button', { name: 'unpin last_command of wheel_scale_b1' }).click();
      await expect(pinned.getByRole('listitem')).toHaveCount(1);
    });

    await test.step('signals are recorded, read at two cursors, and saved', async () => {
      await choose(page, 'climate_io_u1');
      for (const name of ['room_temperature', 'cycle_count', 'heater_on'])
        await page.getByLabel(`record ${name}`, { exact: true }).check();
      await page.getByRole('button', { name: /^Chart/ }).click();
      const chart = page.getByRole('application');
      await expect(chart.locator('svg text').filter({ hasText: 'climate_io_u1.cycle_count' })).toBeVisible();
      await page.waitForTimeout(2500);
      await page.getByRole('button', { name: 'Pause' }).click();
      const box = (await chart.boundingBox())!;
      await page.getByLabel('time shown').selectOption('10 s');
      await page.mouse.click(box.x + box.width - 90, box.y + 50);
      await page.mouse.click(box.x + box.width - 20, box.y + 50);
      const readings = page.getByRole('table', { name: 'values at the cursors' });
      const row = readings.getByRole('row').filter({ hasText: 'cycle_count' });
      const [, a, b, difference] = await row.getByRole('cell').allTextContents();
      expect(Number(b)).toBeGreaterThan(Number(a));
      expect(Number(difference)).toBe(Number(b) - Number(a));

      const download = page.waitForEvent('download');
      await page.getByRole('button', { name: 'Save as CSV' }).click();
      const lines = (await readFile(await (await download).path(), 'utf8')).trim().split('\r\n');
      expect(lines[0]).toBe(
        '"time","climate_io_u1.room_temperature, °C","climate_io_u1.cycle_count","climate_io_u1.heater_on"',
      );
      expect(lines.length).toBeGreaterThan(15);
      const counts = lines.slice(1).map((line) => Number(line.split(',')[2]!.replaceAll('"', '')));
      expect(counts.every((n, i) => i === 0 || n >= counts[i - 1]!)).toBe(true);
    });
  });
});

test.describe(() => {
  test.use({ devices: ['climate_io_u1'] });
  test('Arm ends by itself, with its browser, and with a fault; what was held is let go', async ({
    page,
    context,
    request,
    cellId,
    devices,
  }) => {
    await startBench(page, cellId, devices);
    await choose(page, 'climate_io_u1');
    const armed = page.getByRole('button', { name: /^Disarm/ });
    const arm = page.getByRole('button', { name: 'Arm', exact: true });

    await page.getByLabel('arm for').selectOption('10 s');
    await arm.click();
    await expect(armed).toBeVisible();
    // Held, and never let go by hand: the end of Arm does it.
    await page.getByRole('button', { name: 'hold flap' }).focus();
    await page.keyboard.down('Space');
    await expect(page.locator('[data-value=flap_open]')).toContainText('open');
    await expect(armed).toBeHidden({ timeout: 14_000 });
    await expect(page.locator('[data-value=flap_open]')).toContainText('closed');
    await page.keyboard.up('Space');
    const refused = await request.post('/api/bench/write', {
      data: { device: 'u1', field: 'u1-cmd-heater', value: '1', holder: 'a program' },
    });
    expect(((await refused.json()) as { code: string }).code).toBe('bench.notArmed');

    // A fault ends it too.
    await page.getByLabel('arm for').selectOption('2 min');
    await arm.click();
    await expect(armed).toBeVisible();
    await inject(page, 'be busy');
    await expect(armed).toBeHidden();

    // And so does the loss of the browser that armed.
    const other = await context.newPage();
    await openView(other, cellId, 'bench');
    await other.getByRole('button', { name: 'Arm', exact: true }).click();
    await expect(armed).toBeVisible();
    await other.close();
    await expect(armed).toBeHidden();
    await page.getByRole('button', { name: 'Trace' }).click();
    const trace = page.getByRole('table', { name: 'trace' });
    for (const why of ['its time is over', 'a fault was injected', 'the browser that armed has gone'])
      await expect(trace).toContainText(`disarmed: ${why}`);
  });
});
