/**
 * How Debian's Chromium is started, by the tests and by what takes pictures: its headless shell, which has no window
 * and so nothing to draw around a page. A context costs a third of that of the whole browser.
 */
export const launchOptions = {
  executablePath: '/usr/bin/chromium-headless-shell',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};
