import { z } from 'zod';

/** What browser and server say to each other about exchanges that run on the bench. */

const Plain = z.union([z.boolean(), z.number(), z.string()]);
const Failure = z.object({ step: z.number().nullable(), reason: z.string() });
const RunState = z.enum(['running', 'done', 'failed', 'stopped']);
const StepRun = z.object({ step: z.number(), began: z.number(), ended: z.number(), late: z.boolean() });
const Place = z.object({
  device: z.string(),
  side: z.enum(['command', 'feedback']),
  role: z.string().nullable(),
  number: z.number().nullable(),
  field: z.string().nullable(),
  bit: z.number().nullable(),
});

export const ExchangeStory = z.object({
  story: z
    .object({
      status: z.object({
        exchange: z.string(),
        state: RunState,
        step: z.number().nullable(),
        run: z.number(),
        times: z.number(),
        waits: z.boolean(),
        failure: Failure.nullable(),
      }),
      open: z.array(z.object({ place: Place, holds: z.boolean(), value: Plain })),
      ended: z.array(
        z.object({
          run: z.number(),
          state: RunState,
          failure: Failure.nullable(),
          steps: z.array(StepRun),
          results: z.record(z.string(), Plain),
          ms: z.number(),
        }),
      ),
      places: z.array(Place),
      samples: z.array(z.object({ place: z.number(), ms: z.number(), value: Plain })),
      steps: z.array(StepRun),
    })
    .nullable(),
});
export type Story = NonNullable<z.infer<typeof ExchangeStory>['story']>;
export type EndedRun = Story['ended'][number];
export type StepRun = z.infer<typeof StepRun>;
