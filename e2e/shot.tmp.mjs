import { chromium } from '@playwright/test';
const [,, base, theme, ...views] = process.argv;
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: '--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync'.split(' ') });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', m => { if (m.type() === 'error') console.log('console:', m.text()); });
page.on('pageerror', e => console.log('pageerror:', e.message));
await page.addInitScript(t => localStorage.setItem('theme', t), theme);
for (const v of views) {
  await page.goto(`${base}/cells/ripening-store-3/${v}`);
  await page.waitForTimeout(1500);
  await page.screenshot({ path: `/tmp/shots/${v.replace(/\W/g,'_')}-${theme}.png` });
}
await browser.close();
