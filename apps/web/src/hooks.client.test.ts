import { afterEach, expect, test, vi } from 'vitest';
import { handleError } from './hooks.client.js';

const handled = (error: unknown) =>
  handleError({ error, message: 'Internal Error', status: 500, event: {} as never });

afterEach(() => vi.restoreAllMocks());

test.each([
  'Failed to fetch',
  'Failed to fetch dynamically imported module: http://127.0.0.1/_app/node.js',
  'NetworkError when attempting to fetch resource.',
  'Load failed',
])('"%s": the server is away', (text) => expect(handled(new TypeError(text))).toMatchObject({ away: true }));

test.each([
  // A fault of ours that only names a network: reloaded, it would come again and again.
  new TypeError("Cannot read properties of undefined (reading 'network')"),
  new TypeError('cell.fetch is not a function'),
  new Error('Failed to fetch'),
])('%s is an error of ours, and is logged', (error) => {
  const log = vi.spyOn(console, 'error').mockReturnValue();
  expect(handled(error)).toEqual({ message: 'Internal Error' });
  expect(log).toHaveBeenCalledWith(error);
});
