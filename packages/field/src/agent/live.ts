import type { LinkReport } from '../bench/report.js';
import type { BenchStatus } from './benchStatus.js';

/**
 * How the state of the bench travels: at first whole, then only what has changed. The same pure functions make the news
 * and take them, on each way: agent to web server, web server to browser.
 */
export interface LiveNews {
  /** All links are in it: others that were known are gone. */
  whole: boolean;
  /** Entries beside the links that have changed. */
  head: Partial<Omit<BenchStatus, 'links'>>;
  /** Entries of links that have changed. */
  links: LinkNews[];
}
export type LinkNews = Pick<LinkReport, 'link'> & Partial<LinkReport>;

/** Figures that change with every packet and are read by people: a few times a second is enough. */
const figures: ReadonlySet<keyof LinkReport> = new Set([
  ...(['ageMs', 'freshMs', 'changedMs', 'intervals', 'lately', 'probe', 'restartedMs'] as const),
  ...(['sent', 'received', 'lost', 'late', 'doubled', 'overtaken', 'timeouts', 'reconnects'] as const),
]);

const same = (a: unknown, b: unknown): boolean =>
  a === b || (typeof a === 'object' && typeof b === 'object' && JSON.stringify(a) === JSON.stringify(b));

function changes<T extends object>(before: T, after: T, counts: (key: keyof T) => boolean): Partial<T> {
  const changed: Partial<T> = {};
  for (const key of Object.keys(after) as (keyof T)[])
    if (counts(key) && !same(before[key], after[key])) changed[key] = after[key];
  return changed;
}

/**
 * What has changed from one state to the next; undefined when nothing has. With `withFigures` false, figures are left
 * out but for links whose state is another one.
 */
export function newsBetween(
  before: BenchStatus | undefined,
  { links, ...head }: BenchStatus,
  withFigures = true,
): LiveNews | undefined {
  const known = new Map(before?.links.map((l) => [l.link, l]));
  const same =
    before !== undefined && before.links.length === links.length && links.every((l) => known.has(l.link));
  if (!same) return { whole: true, head, links };
  const { links: _, ...headBefore } = before;
  const headNews = changes<Partial<Omit<BenchStatus, 'links'>>>(
    headBefore,
    head,
    // The machine moves all the time, and is read by people.
    (key) => withFigures || key !== 'machine',
  );
  const linkNews = links.flatMap((after): LinkNews[] => {
    const was = known.get(after.link)!;
    const all = withFigures || was.state !== after.state;
    const changed = changes(was, after, (key) => all || !figures.has(key));
    return Object.keys(changed).length > 0 ? [{ ...changed, link: after.link }] : [];
  });
  if (linkNews.length === 0 && Object.keys(headNews).length === 0) return undefined;
  return { whole: false, head: headNews, links: linkNews };
}

/** The state after news; links that did not change stay the same values. */
export function withNews(before: BenchStatus | undefined, { whole, head, links }: LiveNews): BenchStatus {
  if (whole || !before) return { ...(head as Omit<BenchStatus, 'links'>), links: links as LinkReport[] };
  const news = new Map(links.map((l) => [l.link, l]));
  return {
    ...before,
    ...head,
    links: before.links.map((link) => {
      const own = news.get(link.link);
      return own ? { ...link, ...own } : link;
    }),
  };
}

const noImages = { command: '', feedback: '', sideCommand: '' };

/** The news for somebody who sees the images of these links alone; undefined when nothing is left. */
export function newsFor(news: LiveNews, watched: ReadonlySet<string>): LiveNews | undefined {
  const links = news.links.flatMap((link): LinkNews[] => {
    if (watched.has(link.link)) return [link];
    const { command: _, feedback: __, sideCommand: ___, ...others } = link;
    const rest: LinkNews = news.whole ? { ...others, ...noImages } : others;
    return Object.keys(rest).length > 1 ? [rest] : [];
  });
  if (!news.whole && links.length === 0 && Object.keys(news.head).length === 0) return undefined;
  return { ...news, links };
}

/** The images of these links as they are now, for somebody who begins to look at them. */
export const imagesOf = ({ links }: BenchStatus, watched: ReadonlySet<string>): LiveNews => ({
  whole: false,
  head: {},
  links: links
    .filter((l) => watched.has(l.link))
    .map(({ link, command, feedback, sideCommand }) => ({ link, command, feedback, sideCommand })),
});
