import { expect, type Page } from '@playwright/test';

export interface Unreadable {
  text: string;
  why: string;
}

/** Texts that are too small, or cut by something that does not scroll. Runs in the page. */
export function unreadable(): Unreadable[] {
  const found = new Map<string, Unreadable>();
  const place = (element: Element) => {
    const label = element.closest('[aria-label]')?.getAttribute('aria-label') ?? '';
    return `${element.tagName.toLowerCase()}${label ? ` in "${label}"` : ''}`;
  };
  const note = (element: Element, text: string, why: string) => {
    const key = `${why} ${place(element)}`;
    if (!found.has(key)) found.set(key, { text: text.slice(0, 60), why: `${why}: ${place(element)}` });
  };
  const shown = (element: Element) =>
    element.checkVisibility({ opacityProperty: true, visibilityProperty: true }) &&
    // What tells a screen reader of another page is out of sight, too.
    !element.closest('.sr-only, #svelte-announcer, svg, datalist, option');
  // What a box does to the texts within it; asked once for each.
  const boxes = new Map<Element, { cutX: boolean; cutY: boolean; scrolls: boolean; edge: DOMRect }>();
  const boxOf = (element: Element) => {
    let box = boxes.get(element);
    if (!box) {
      const { overflowX, overflowY } = getComputedStyle(element);
      box = {
        cutX: /hidden|clip/.test(overflowX),
        cutY: /hidden|clip/.test(overflowY),
        scrolls: /auto|scroll/.test(overflowX) || /auto|scroll/.test(overflowY),
        edge: element.getBoundingClientRect(),
      };
      boxes.set(element, box);
    }
    return box;
  };
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  const range = document.createRange();
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const text = node.textContent!.trim();
    const element = node.parentElement!;
    if (!text || !shown(element) || element.matches('script, style, textarea, title')) continue;
    const style = getComputedStyle(element);
    if (parseFloat(style.fontSize) < 12) note(element, text, `text of ${style.fontSize}`);
    range.selectNodeContents(node);
    const rects = [...range.getClientRects()];
    for (let box: Element | null = element; box; box = box.parentElement) {
      const { cutX, cutY, scrolls, edge } = boxOf(box);
      // What scrolls can be reached, whatever lies around it.
      if (scrolls) break;
      if (
        rects.some(
          (r) =>
            (cutX && (r.right > edge.right + 1.5 || r.left < edge.left - 1.5)) ||
            (cutY && (r.bottom > edge.bottom + 3 || r.top < edge.top - 3)),
        )
      ) {
        note(element, text, 'cut text');
        break;
      }
    }
  }
  const canvas = document.createElement('canvas').getContext('2d')!;
  for (const entry of document.querySelectorAll<HTMLInputElement | HTMLSelectElement>(
    'input:not([type=checkbox], [type=radio], [type=file], [type=range]), select',
  )) {
    if (!shown(entry)) continue;
    const style = getComputedStyle(entry);
    const text =
      entry instanceof HTMLSelectElement
        ? (entry.selectedOptions[0]?.textContent?.trim() ?? '')
        : entry.value || entry.placeholder;
    if (parseFloat(style.fontSize) < 12) note(entry, text, `entry of ${style.fontSize}`);
    canvas.font = `${style.fontWeight} ${style.fontSize} ${style.fontFamily}`;
    const room = entry.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight);
    if (canvas.measureText(text).width > room + 2) note(entry, text, 'cut entry');
  }
  return [...found.values()];
}

/** Nothing on the page is too small to be read, or cut. */
export async function expectReadable(page: Page): Promise<void> {
  expect(await page.evaluate(unreadable)).toEqual([]);
}
