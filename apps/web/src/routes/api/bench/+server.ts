import { parseInput } from '@fadenkreuz/core';
import { z } from 'zod';
import { answer, boundedJson } from '../../../lib/server/answer.js';
import { getServices } from '../../../lib/server/services.js';

const StartRequest = z.strictObject({ cell: z.string().max(40) });

/** Starts the bench with the stored state of a cell. */
export const POST = ({ request }) =>
  answer(async () => {
    const wanted = parseInput(StartRequest, await boundedJson(request), 'bench');
    return getServices().bench.start(wanted.cell);
  });

export const DELETE = () => answer(() => getServices().bench.stop());
