import type { HandleClientError } from '@sveltejs/kit';

/**
 * How browsers begin what they say of data or code that nobody sent: Chromium, Firefox, WebKit (the latter two from
 * memory).
 */
const metNobody =
  /^(Failed to fetch|NetworkError|error loading dynamically|Load failed|Importing a module script failed)/;

/** A view whose data nobody sent is away, and no error of ours: it comes back by itself (routes/+error.svelte). */
export const handleError: HandleClientError = ({ error, message }) => {
  if (error instanceof TypeError && metNobody.test(error.message))
    return { message: 'The web server does not answer. It is started again by itself.', away: true };
  console.error(error);
  return { message };
};
