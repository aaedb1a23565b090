import { answer, boundedJson } from '$lib/server/answer.js';
import { getServices } from '$lib/server/services.js';

export const POST = ({ request }) =>
  answer(async () => getServices().agent.request('POST', '/run', await boundedJson(request)));
