import type { ImageChange, LiveNews, TraceLine, WireStatus } from '@fadenkreuz/field/agent-api';
import { z } from 'zod';

/**
 * What browser and server say to each other about the bench. The agent's own answers are trusted to have their shape
 * once they are objects.
 */

/** Links whose images a browser window shows. */
export const Watch = z.strictObject({
  desk: z.string().min(1).max(80),
  links: z.array(z.string().max(40)).max(200),
});

const shaped = <T>(...keys: (keyof T & string)[]) =>
  z.custom<T>((value) => typeof value === 'object' && value !== null && keys.every((key) => key in value));

/** Null while the agent is away. */
export const News = shaped<LiveNews>('whole', 'head', 'links').nullable();
export const TraceLines = z.array(shaped<TraceLine>('number', 'at', 'event'));
export const ImageNews = z.object({
  begun: z.number(),
  now: z.number(),
  changes: z.array(shaped<ImageChange>('number', 'at', 'link', 'direction', 'bytes')),
});
export const Wire = shaped<WireStatus>('scan', 'assigning', 'adapters');
export const WireDone = z.object({ done: z.array(z.string()) });
