import { error } from '@sveltejs/kit';
import { answer, boundedJson } from '../../../../lib/server/answer.js';
import { getServices } from '../../../../lib/server/services.js';

/** What the agent does on the wire on request; it checks the bodies itself. */
const actions = ['scan', 'address', 'keep', 'assign'];
/** What can be ended before its time. */
const endable = ['scan', 'assign'];

export const POST = ({ params, request }) => {
  if (!actions.includes(params.action)) error(404, 'There is no such action.');
  return answer(async () =>
    getServices().agent.wire<unknown>('POST', `/${params.action}`, await boundedJson(request)),
  );
};

export const DELETE = ({ params }) => {
  if (!endable.includes(params.action)) error(404, 'There is nothing to end.');
  return answer(() => getServices().agent.wire('DELETE', `/${params.action}`));
};
