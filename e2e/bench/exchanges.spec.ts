import type { Page } from '@playwright/test';
import { expect, openView, test } from '../page.js';
import {
  choose,
  clearFault,
  inject,
  openExchange,
  pressArmed,
  runExchange,
  startBench,
  untilObeyed,
} from './commands.js';

/** What stops a device, its states as stations, and exchanges, as a person works with them. */

const beam = (page: Page, action: string) => page.getByRole('list', { name: `conditions to ${action}` });

test.describe(() => {
  test.use({ devices: ['wheel_turner_r1', 'rind_camera_v1'] });
  test('a camera that does not trigger is cured from its beam; a draft is made by hand; a robot runs', async ({
    page,
    cellId,
    devices,
  }) => {
    await startBench(page, cellId, devices);
    await test.step('the cause is found on the beam alone, and cured from there', async () => {
      await choose(page, 'rind_camera_v1');
      const conditions = beam(page, 'trigger');
      // It was never put online: a trigger is lost in silence.
      await expect(conditions.locator('[data-ring=enable]')).toHaveAttribute('data-state', 'open');
      await expect(conditions.locator('[data-ring=faulted]')).toHaveAttribute('data-state', 'closed');
      await untilObeyed(
        () => pressArmed(page, page.getByRole('button', { name: 'Give enable' })),
        () =>
          expect(conditions.locator('[data-ring=enable]')).toHaveAttribute('data-state', 'closed', {
            timeout: 5000,
          }),
      );
      await untilObeyed(
        () => pressArmed(page, page.getByRole('button', { name: 'Give trigger' })),
        () => expect(page.locator('[data-value=trigger_acknowledge]')).toContainText('1', { timeout: 5000 }),
      );
      await expect(page.getByText('nothing stops trigger')).toBeAttached();
    });

    await test.step('what is done by hand becomes a draft that runs', async () => {
      await openView(page, cellId, 'exchanges');
      await page.getByRole('button', { name: 'Record by hand' }).click();
      await expect(page.getByRole('button', { name: /Stop and make a draft/ })).toBeVisible();
      await page.getByRole('button', { name: 'rind camera: change the program' }).click();
      await runExchange(page);
      await page.getByRole('button', { name: /Stop and make a draft/ }).click();
      await expect(page.getByRole('heading', { name: /by hand/ })).toBeVisible();
      await expect(page.getByRole('row').filter({ hasText: 'program change' }).first()).toBeVisible();
    });

    await test.step('a robot is started by its exchange', async () => {
      await openExchange(page, cellId, 'wheel turner: run a program');
      await runExchange(page);
      const steps = page.getByRole('row').filter({ hasText: 'take start back' });
      // Measured: least, typical and most.
      await expect(steps.getByRole('cell').nth(4)).toHaveText(/\d/);
    });

    await test.step('a part of its chain is somebody’s own', async () => {
      await openView(page, cellId, 'bench');
      await choose(page, 'wheel_turner_r1');
      await page.getByText('Change the chain').click();
      await page.getByRole('button', { name: 'Add a condition' }).click();
      const holds = page.getByLabel('holds while');
      await holds.fill('rind_camera_v1.pass');
      await holds.press('Enter');
      await page.getByLabel('stands before').selectOption({ label: 'link' });
      await expect(beam(page, 'run')).toContainText('rind_camera_v1.pass does not hold');
    });

    await test.step('a link that is away is the first ring of all', async () => {
      await choose(page, 'rind_camera_v1');
      await inject(page, 'pull the cable');
      await expect(beam(page, 'trigger').locator('[data-ring=link]')).toHaveAttribute('data-state', 'open');
    });
  });
});

test.describe(() => {
  test.use({ devices: ['brush_belt_m1'] });
  test('a drive is brought from a fault to running from its stations', async ({ page, cellId, devices }) => {
    await startBench(page, cellId, devices);
    await choose(page, 'brush_belt_m1');
    const states = page.getByRole('list', { name: 'states' });
    await inject(page, 'jam what it drives: it trips on overload');
    const here = states.locator('[aria-current=step]');
    await untilObeyed(
      async () => {
        for (const name of ['net_control', 'net_reference', 'run_forward'])
          await pressArmed(
            page,
            page
              .getByRole('group', { name: `write ${name}` })
              .getByRole('button', { name: '1', exact: true }),
          );
        const speed = page.getByLabel('write speed_reference', { exact: true });
        await speed.fill('20');
        await speed.press('Enter');
      },
      () => expect(here).toContainText('Faulted', { timeout: 20_000 }),
    );
    await clearFault(page);
    await untilObeyed(
      () => pressArmed(page, states.getByRole('button', { name: 'Fault reset' })),
      () => expect(here).toContainText('Ready', { timeout: 5000 }),
    );
    // Its start has stood since before the fault: it must come again.
    await untilObeyed(
      () => pressArmed(page, states.getByRole('button', { name: /Run forward/ })),
      () => expect(here).toContainText('Enabled', { timeout: 8000 }),
    );
  });
});
