import { answer, boundedJson } from '../../../../lib/server/answer.js';
import { getServices } from '../../../../lib/server/services.js';

/** What the images of links became, packet by packet, behind a number; asking is following. */
export const POST = ({ request }) =>
  answer(async () => getServices().agent.images(await boundedJson(request)));
