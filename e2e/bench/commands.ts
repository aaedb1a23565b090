import type { Locator, Page } from '@playwright/test';
import { expect, openView } from '../page.js';

/**
 * Commands of a person at the bench. A busy computer may not be heard for two seconds, and loses Arm by that: then one
 * arms again and repeats what was refused, as a person would.
 */

/** A press that has not come through by then never will: what hangs is tried once more, in a page of its own. */
const givenUp = { timeout: 40_000 };

/** Starts the bench of a cell, and waits until all of its devices are reached. */
export async function startBench(page: Page, cellId: string, devices: readonly string[]): Promise<void> {
  await openView(page, cellId, 'bench');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page.getByRole('contentinfo')).toContainText(`${devices.length} of ${devices.length} open`);
}
export const choose = (page: Page, device: string): Promise<void> =>
  page.getByRole('main').getByRole('button', { name: device, exact: true }).click();

/** Makes something go wrong at the chosen device, and waits until it has. */
export async function inject(page: Page, title: string): Promise<void> {
  await page.getByLabel('fault', { exact: true }).selectOption({ label: title });
  await page.getByRole('button', { name: 'Inject' }).click();
  await expect(page.getByTestId('injected')).toBeVisible();
}
/** Takes it away again; a page that is left at once takes its request along. */
export async function clearFault(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Clear', exact: true }).click();
  await expect(page.getByTestId('injected')).toBeHidden();
}

/** Presses Arm where it does not hold. */
async function armAgain(page: Page): Promise<void> {
  const arm = page.getByRole('button', { name: 'Arm', exact: true });
  // It is another button once Arm holds.
  if (await arm.isVisible()) await arm.click({ timeout: 2000 });
}

/** Sets a bit of the command image to 1; `where` is the part of the page that has its buttons. */
export const setBit = (page: Page, bit: string, where: Page | Locator = page): Promise<void> =>
  expect(async () => {
    await armAgain(page);
    const one = where
      .getByRole('group', { name: `write ${bit}`, exact: true })
      .getByRole('button', { name: '1', exact: true });
    await one.click({ timeout: 5000 });
    await expect(one).toHaveAttribute('aria-pressed', 'true', { timeout: 5000 });
  }).toPass(givenUp);

/** Types a number into the command image. */
export const writeNumber = (page: Page, name: string, value: number): Promise<void> =>
  expect(async () => {
    await armAgain(page);
    const entry = page.getByLabel(`write ${name}`, { exact: true });
    await entry.fill(String(value), { timeout: 5000 });
    await entry.press('Enter');
    await expect.poll(async () => Number(await entry.inputValue()), { timeout: 5000 }).toBe(value);
  }).toPass(givenUp);

/** Chooses a number of the command image by its label. */
export const chooseLabel = (page: Page, name: string, label: string): Promise<void> =>
  expect(async () => {
    await armAgain(page);
    const choice = page.getByLabel(`choose ${name}`, { exact: true });
    await choice.selectOption({ label }, { timeout: 5000 });
  }).toPass(givenUp);

/** Presses a button that needs Arm. */
export const pressArmed = (page: Page, button: Locator): Promise<void> =>
  expect(async () => {
    await armAgain(page);
    await button.click({ timeout: 5000 });
  }).toPass(givenUp);

/**
 * Writes until the device does what it was told. A link that a halt of the computer ends is opened without its
 * commands: they are given again.
 */
export const untilObeyed = (write: () => Promise<void>, obeyed: () => Promise<void>): Promise<void> =>
  expect(async () => {
    await write();
    await obeyed();
  }).toPass({ timeout: 120_000 });

/** What is said of the run of an exchange. */
export const stateOfRun = (page: Page): Locator =>
  page
    .getByRole('main')
    .getByRole('status')
    .filter({ hasText: /done|failed|step/ });

export async function openExchange(page: Page, cellId: string, name: string): Promise<void> {
  await openView(page, cellId, 'exchanges');
  await page.getByRole('button', { name, exact: true }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
}

/** Runs the chosen exchange to its end; once more where it failed, as with a link that a halt of the computer ended. */
export const runExchange = (page: Page): Promise<void> =>
  expect(async () => {
    const state = stateOfRun(page);
    const failedBefore = (await state.filter({ hasText: 'failed' }).count()) > 0;
    await pressArmed(page, page.getByRole('button', { name: 'Run', exact: true }));
    if (failedBefore) await expect(state).not.toContainText('failed', { timeout: 5000 });
    await expect(state).toContainText(/done|failed/, { timeout: 25_000 });
    await expect(state).toContainText('done', { timeout: 1 });
  }).toPass();
