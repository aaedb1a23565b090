import { building } from '$app/environment';
import { getServices } from './lib/server/services.js';
import type { Handle, ServerInit } from '@sveltejs/kit';

export const init: ServerInit = () => {
  if (building) return;
  getServices();
  // The open connections to agent and database would keep the process alive after the last request is answered.
  process.on('sveltekit:shutdown', () => process.exit(0));
  // The launcher holds the other end of this channel; without it nobody would ever stop this server.
  process.on('disconnect', () => process.exit(0));
};

/** Only by these names is the server asked from this computer; another Host header is a page elsewhere that tries. */
const ownHosts = new Set(['127.0.0.1', 'localhost', '[::1]']);

export const handle: Handle = async ({ event, resolve }) => {
  const host = event.request.headers.get('host')?.replace(/:\d+$/, '') ?? '';
  if (!building && !ownHosts.has(host))
    return new Response('This server answers to 127.0.0.1 and localhost only.', { status: 421 });
  const origin = event.request.headers.get('origin');
  if (
    origin &&
    event.request.method !== 'GET' &&
    !(URL.canParse(origin) && ownHosts.has(new URL(origin).hostname))
  )
    return new Response('Requests from other pages are refused.', { status: 403 });
  return resolve(event);
};
