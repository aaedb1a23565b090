import { timingSafeEqual } from 'node:crypto';

/**
 * Who may ask this server for something. It listens on loopback, which other people on the same computer and any page
 * in the same browser reach as well: each start has a token, which stands in the address that the start prints.
 */
export interface Gate {
  /** The token of this start; empty: none was given, and everybody may ask. */
  token: string;
  /** The cookie that holds it; two applications on two ports have two. */
  cookie: string;
}

export type Verdict = 'pass' | 'other-name' | 'other-page' | 'no-token';

/** Only by these names is the server asked from this computer; another Host header is a page elsewhere that tries. */
const ownHosts = new Set(['127.0.0.1', 'localhost', '[::1]']);
const hostOf = (host: string) => host.replace(/:\d+$/, '');

/** Whether this is the token, in a time that does not tell how much of it is right. */
export function isToken({ token }: Gate, given: string | null | undefined): boolean {
  const [wanted, own] = [Buffer.from(token), Buffer.from(given ?? '')];
  return wanted.length === own.length && timingSafeEqual(wanted, own);
}

/** What is said to a request: `cookies` as they came with it. */
export function judge(
  gate: Gate,
  { method, url, headers }: Pick<Request, 'method' | 'url' | 'headers'>,
  cookies: { get: (name: string) => string | undefined },
): Verdict {
  if (!ownHosts.has(hostOf(headers.get('host') ?? ''))) return 'other-name';
  const origin = headers.get('origin');
  const foreign = origin !== null && !(URL.canParse(origin) && ownHosts.has(new URL(origin).hostname));
  if (foreign && method !== 'GET') return 'other-page';
  const { pathname } = new URL(url);
  // A page at another port of this computer is the same site to a browser, and another program all the same.
  const from = headers.get('sec-fetch-site');
  if (pathname.startsWith('/api/') && (from === 'cross-site' || from === 'same-site')) return 'other-page';
  if (gate.token === '' || pathname === '/api/health') return 'pass';
  const bearer = /^Bearer (.+)$/.exec(headers.get('authorization') ?? '')?.[1];
  return isToken(gate, cookies.get(gate.cookie)) || isToken(gate, bearer) ? 'pass' : 'no-token';
}

/** Headers that every answer carries: no other page may hold it in a frame, read it, or learn where it stands. */
export const guards: Readonly<Record<string, string>> = {
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'no-referrer',
  'cross-origin-resource-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
};
/** Pages bring a policy of their own (svelte.config.js); everything else is to be shown nowhere. */
export const noContent = "default-src 'none'; frame-ancestors 'none'";
