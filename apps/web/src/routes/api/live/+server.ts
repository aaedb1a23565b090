import { parseInput } from '@fadenkreuz/core';
import { Watch } from '../../../lib/api/live.js';
import { answer, boundedJson } from '../../../lib/server/answer.js';
import { viewOf } from '../../../lib/server/liveView.js';

/** A browser says of which links it shows the images. */
export const POST = ({ request }) =>
  answer(async () => {
    const { desk, links } = parseInput(Watch, await boundedJson(request), 'what is watched');
    viewOf(desk)?.watch(links);
    return {};
  });
