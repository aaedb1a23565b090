import { building } from '$app/environment';
import { guards, isToken, judge, noContent, type Gate } from './lib/server/gate.js';
import { getServices } from './lib/server/services.js';
import { redirect, type Handle, type ServerInit } from '@sveltejs/kit';

export const init: ServerInit = () => {
  if (building) return;
  // A log that cannot be written, on a full disk, is no reason to end.
  for (const log of [process.stdout, process.stderr]) log.on('error', () => undefined);
  getServices();
  // The open connections to agent and database would keep the process alive after the last request is answered.
  process.on('sveltekit:shutdown', () => process.exit(0));
  // The launcher holds the other end of this channel; without it nobody would ever stop this server.
  process.on('disconnect', () => process.exit(0));
};

const gate: Gate = {
  token: process.env['FADENKREUZ_TOKEN'] ?? '',
  cookie: `fadenkreuz-${process.env['PORT'] ?? ''}`,
};
const refusals = {
  'other-name': [421, 'This server answers to 127.0.0.1 and localhost only.'],
  'other-page': [403, 'Requests from other pages are refused.'],
  'no-token': [
    401,
    'This browser has not been let in. Open the address that the start has printed: it ends with the token of this ' +
      'start. Programs send it as: Authorization: Bearer TOKEN',
  ],
} as const;

export const handle: Handle = async ({ event, resolve }) => {
  if (building) return resolve(event);
  const { request, url, cookies } = event;
  const given = url.searchParams.get('token');
  if (given !== null && request.method === 'GET' && isToken(gate, given)) {
    // It goes from the address into a cookie, so that it stands in no history and in no address that is passed on.
    cookies.set(gate.cookie, given, { path: '/', httpOnly: true, sameSite: 'strict', secure: false });
    url.searchParams.delete('token');
    redirect(303, url.pathname + url.search);
  }
  const verdict = judge(gate, request, cookies);
  if (verdict !== 'pass') {
    const [status, text] = refusals[verdict];
    return new Response(text, { status, headers: { ...guards, 'content-security-policy': noContent } });
  }
  const response = await resolve(event);
  for (const [name, value] of Object.entries(guards)) response.headers.set(name, value);
  if (!response.headers.has('content-security-policy'))
    response.headers.set('content-security-policy', noContent);
  return response;
};
