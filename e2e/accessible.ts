import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, type Page } from '@playwright/test';
import type { AxeResults, RunOptions } from 'axe-core';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
type Window = { axe?: { run: (root: Document, options: RunOptions) => Promise<AxeResults> } };

const none = async (page: Page, runOnly: RunOptions['runOnly']): Promise<void> => {
  // It stays in a page until the next load: reading it takes as long as half of what it does.
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe);
  // What is in order need not be told node by node.
  const options: RunOptions = { runOnly: runOnly!, resultTypes: ['violations'], preload: false };
  const found = await page.evaluate(async (of) => {
    const { violations } = await (window as Window).axe!.run(document, of);
    return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`);
  }, options);
  expect(found).toEqual([]);
};

/** WCAG 2.2 AA by axe. */
export const expectNoViolations = (page: Page): Promise<void> =>
  none(page, { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] });

/** What makes a part of the page wider than it is: the innermost elements that hold more than they show. */
const beyondTheEdge = (parts: Element[]): string[] =>
  parts
    .filter((part) => part.scrollWidth > part.clientWidth)
    .flatMap((part) => {
      const wide = [part, ...part.querySelectorAll('*')].filter(
        (e) =>
          e.scrollWidth > e.clientWidth && e.clientWidth > 0 && getComputedStyle(e).overflowX === 'visible',
      );
      const inner = wide.filter((e) => !wide.some((other) => other !== e && e.contains(other)));
      return [`${part.tagName} by`, ...inner.slice(0, 5).map((e) => e.outerHTML.slice(0, 200))];
    });

/** Waits until nothing moves or changes its colour any more, and two pictures of that have been drawn. */
const settled = (page: Page): Promise<void> =>
  page.evaluate(async () => {
    const drawn = () => new Promise((resolve) => requestAnimationFrame(resolve));
    do {
      await drawn();
      await drawn();
    } while (
      document
        .getAnimations()
        .some((a) => a.playState === 'running' && a.effect?.getTiming().iterations !== Infinity)
    );
  });

/** WCAG 2.2 AA by axe in both themes, and nothing to be scrolled sideways at the window's width. */
export async function expectAccessible(page: Page): Promise<void> {
  await settled(page);
  await expectNoViolations(page);
  const { width } = page.viewportSize()!;
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
  expect(await page.locator('main, aside').evaluateAll(beyondTheEdge)).toEqual([]);
  // A theme changes colours and nothing else: the second one is asked for contrast alone.
  const html = page.locator('html');
  const first = await html.getAttribute('data-theme');
  await page.getByRole('button', { name: 'Paper or lamp' }).click();
  await expect(html).not.toHaveAttribute('data-theme', first!);
  await settled(page);
  await none(page, { type: 'rule', values: ['color-contrast'] });
}
