import type { Cookies } from '@sveltejs/kit';
import { randomUUID } from 'node:crypto';

const name = 'person';
/** A browser is known again for so long, s. */
const keptSeconds = 400 * 24 * 3600;

/**
 * Who sits at a browser: there are no accounts, so each browser is a person. It is known by a cookie, which it gets
 * with its first page, and which it says itself with each change.
 */
export function personOf(cookies: Cookies): string {
  const known = cookies.get(name);
  if (known && /^[\w-]{1,80}$/.test(known)) return known;
  const person = randomUUID();
  cookies.set(name, person, {
    path: '/',
    httpOnly: true,
    sameSite: 'strict',
    secure: false,
    maxAge: keptSeconds,
  });
  return person;
}
