import { z } from 'zod';

/** What the list of cells asks the server for; the model checks the entries. */
export const CopyRequest = z.strictObject({
  name: z.string().max(200),
  /** Null: the addresses stay as they are. */
  subnet: z.string().max(40).nullable(),
});
export type CopyRequest = z.infer<typeof CopyRequest>;
