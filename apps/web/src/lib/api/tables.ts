import { z } from 'zod';

/** The rows of a table file, as text. */
export const Rows = z.object({ rows: z.array(z.array(z.string())) });
