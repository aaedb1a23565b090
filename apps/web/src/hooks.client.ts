import type { HandleClientError } from '@sveltejs/kit';

/** What browsers say of a request that met nobody: Chromium, Firefox, WebKit. */
const metNobody = /fetch|network|load failed/i;

/** A view whose data nobody sent is away, and no error of ours: it comes back by itself (routes/+error.svelte). */
export const handleError: HandleClientError = ({ error, message }) => {
  if (error instanceof TypeError && metNobody.test(error.message))
    return { message: 'The web server does not answer. It is started again by itself.', away: true };
  console.error(error);
  return { message };
};
