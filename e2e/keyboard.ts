import type { Locator } from '@playwright/test';
import { expect } from './page.js';

/** Gives the focus to what a keyboard can get to: it takes the focus, and is in the order of Tab. */
export async function reach(what: Locator): Promise<void> {
  // A view that opens takes the focus to its top.
  await expect(async () => {
    await what.focus();
    await expect(what).toBeFocused({ timeout: 500 });
  }).toPass();
  expect(await what.evaluate((e) => (e as HTMLElement).tabIndex)).toBeGreaterThanOrEqual(0);
}
