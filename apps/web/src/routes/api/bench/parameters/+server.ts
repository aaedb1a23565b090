import { error } from '@sveltejs/kit';
import { answer, boundedJson } from '../../../../lib/server/answer.js';
import { getServices } from '../../../../lib/server/services.js';

/** A restore of thousands of values, bytes. */
const mostBytes = 4 * 1024 * 1024;

/** What the agent does with parameters on request; it checks the bodies itself. */
const actions = ['read', 'write', 'cancel', 'watch', 'list', 'forget-cut'];

/**
 * What became known behind `since`; the lines of one series with `series`; with `device` what it says it is, and with
 * `parameter`, too, the messages of the last request.
 */
export const GET = ({ url: { searchParams } }) => {
  const path = searchParams.has('series')
    ? '/series'
    : searchParams.has('parameter')
      ? '/frames'
      : searchParams.has('device')
        ? '/identity'
        : '';
  if (path === '' && !searchParams.has('since')) searchParams.set('since', '0');
  return answer(() => getServices().agent.parameters('GET', `${path}?${searchParams}`));
};

export const POST = ({ request, url }) => {
  const action = url.searchParams.get('do') ?? '';
  if (!actions.includes(action)) error(404, 'There is no such action.');
  return answer(async () =>
    getServices().agent.parameters('POST', `/${action}`, await boundedJson(request, mostBytes)),
  );
};
