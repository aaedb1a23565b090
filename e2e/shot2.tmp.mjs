import { chromium } from '@playwright/test';
const [, , base, theme] = process.argv;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: '--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync'.split(
    ' ',
  ),
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => {
  if (m.type() === 'error') console.log('console:', m.text());
});
page.on('pageerror', (e) => console.log('pageerror:', e.message));
await page.addInitScript((t) => localStorage.setItem('theme', t), theme);
await page.goto(`${base}/cells/ripening-store-3/line-up`);
await page.waitForTimeout(800);
await page.screenshot({ path: `/tmp/shots/a-lineup-${theme}.png` });
await page.goto(`${base}/cells/ripening-store-3/bench`);
await page.waitForTimeout(800);
if (await page.getByRole('button', { name: 'Start' }).count())
  await page.getByRole('button', { name: 'Start' }).click();
await page.waitForTimeout(1500);
await page.getByRole('button', { name: 'Arm', exact: true }).click();
await page.waitForTimeout(500);
await page
  .getByRole('group', { name: 'write heater', exact: true })
  .getByRole('button', { name: '1' })
  .click();
await page.getByLabel('write heater_level').fill('80');
await page.keyboard.press('Enter');
await page.getByRole('group', { name: 'write fan', exact: true }).getByRole('button', { name: '1' }).click();
await page.getByLabel('write fan_level').fill('50');
await page.keyboard.press('Enter');
await page.waitForTimeout(9000);
await page.screenshot({ path: `/tmp/shots/b-bench-${theme}.png` });
await page.getByRole('link', { name: 'Sight' }).click();
await page.waitForTimeout(800);
await page.keyboard.press('ArrowDown');
await page.keyboard.press('ArrowLeft');
await page.waitForTimeout(400);
await page.screenshot({ path: `/tmp/shots/c-sight-${theme}.png` });
await browser.close();
