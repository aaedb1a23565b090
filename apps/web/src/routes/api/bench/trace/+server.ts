import { parseInput } from '@fadenkreuz/core';
import { z } from 'zod';
import { answer } from '../../../../lib/server/answer.js';
import { getServices } from '../../../../lib/server/services.js';

const Since = z.coerce.number().int().nonnegative();

/** Lines of the trace behind `since`. */
export const GET = ({ url }) =>
  answer(async () =>
    getServices().agent.trace(parseInput(Since, url.searchParams.get('since') ?? 0, 'since')),
  );
