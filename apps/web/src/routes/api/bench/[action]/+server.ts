import { error } from '@sveltejs/kit';
import { answer, boundedJson } from '../../../../lib/server/answer.js';
import { getServices } from '../../../../lib/server/services.js';

/** What the agent does on request; it checks the bodies itself. */
const actions = [
  ...['arm', 'here', 'rest', 'after', 'run', 'write', 'bytes', 'command', 'inject', 'clear', 'side', 'seen'],
  ...['move', 'hold', 'let-go', 'met'],
  ...['run-exchange', 'release-exchange', 'stop-exchange'],
];

export const POST = ({ params, request }) => {
  if (!actions.includes(params.action)) error(404, 'There is no such action.');
  return answer(async () =>
    getServices().agent.request('POST', `/${params.action}`, await boundedJson(request)),
  );
};

/** Disarms. */
export const DELETE = ({ params }) => {
  if (params.action !== 'arm') error(404, 'There is nothing to take back.');
  return answer(() => getServices().agent.request('DELETE', '/arm'));
};
