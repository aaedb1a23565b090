import { expect, openView, pidOf, test } from '../page.js';

test('a bench that dies with its agent is said to stand still, and starts again', async ({
  page,
  cellId,
}) => {
  await openView(page, cellId, 'bench');
  await page.getByRole('button', { name: 'Start' }).click();
  // Of many devices a strip is shown at first.
  await page.getByRole('button', { name: 'Table of links' }).click();
  const line = page.getByRole('row').filter({ hasText: 'climate_io_u1' }).first();
  await expect(line).toContainText('open');
  process.kill(pidOf('agent'), 'SIGKILL');
  await expect(page.getByTestId('bench-state')).toHaveText(/agent is away|stopped/);
  await expect(page.getByTestId('bench-state')).toHaveText(/stopped/, { timeout: 20_000 });
  await page.getByRole('button', { name: 'Start' }).click();
  await expect(line).toContainText('open');
});
