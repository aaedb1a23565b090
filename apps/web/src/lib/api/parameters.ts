import { outcomes, Parameter, Snapshot } from '@fadenkreuz/core';
import { z } from 'zod';

/** What browser and server say to each other about parameters on the wire, and about snapshots. */

const Problem = z.object({ code: z.string(), says: z.string(), cure: z.string() });
const line = {
  device: z.string(),
  parameter: z.string(),
  outcome: z.enum(outcomes),
  bytes: z.string().nullable(),
  ms: z.number(),
  problem: Problem.nullable(),
};
export const KnownValue = z.object({ ...line, number: z.number(), at: z.number() });
export type KnownValue = z.infer<typeof KnownValue>;
export const SeriesLine = z.object({ ...line, wrote: z.string().nullable() });
export type SeriesLine = z.infer<typeof SeriesLine>;
export const SeriesState = z.object({
  id: z.number(),
  does: z.enum(['read', 'write']),
  total: z.number(),
  counts: z.record(z.enum(outcomes), z.number()),
  ended: z.boolean(),
  cancelled: z.boolean(),
  begun: z.number(),
});
export type SeriesState = z.infer<typeof SeriesState>;
export const ParameterNews = z.object({
  last: z.number(),
  values: z.array(KnownValue),
  samples: z.array(KnownValue),
  series: z.array(SeriesState),
  watched: z.array(z.object({ device: z.string(), parameter: z.string(), everyMs: z.number() })),
});
export type Watched = z.infer<typeof ParameterNews>['watched'][number];
/** The parameters that a device itself tells of. */
export const ListedParameters = z.object({ parameters: z.array(Parameter) });
/** What a device says it is; null is what it does not say. */
export const SaidIdentity = z.object({
  found: z
    .object({
      vendor: z.number().nullable(),
      deviceType: z.number().nullable(),
      productCode: z.number().nullable(),
      majorRevision: z.number().nullable(),
      minorRevision: z.number().nullable(),
      productName: z.string(),
      serialNumber: z.number().nullable(),
    })
    .nullable(),
});
/** Messages of a request as they stood on the wire, hex pairs. */
export const Frames = z.object({ frames: z.array(z.object({ answer: z.boolean(), bytes: z.string() })) });
export type Frame = z.infer<typeof Frames>['frames'][number];
export const SeriesLines = z.object({ lines: z.array(SeriesLine) });

/** A snapshot to keep: the server adds who and when. */
export const NewSnapshot = Snapshot.omit({ person: true, at: true });
export type NewSnapshot = z.infer<typeof NewSnapshot>;
/** Snapshots of a cell without their values, the latest first. */
export const SnapshotHead = Snapshot.omit({ values: true }).extend({ count: z.number() });
export type SnapshotHead = z.infer<typeof SnapshotHead>;
export const SnapshotHeads = z.array(SnapshotHead);
