import { Problem } from '@fadenkreuz/core';
import { maxDescriberBytes } from '@fadenkreuz/core/describers';
import type { Asked, Understood } from './describerWorker.js';

/** A file that takes longer than this is given up, ms: the worker is ended with it. */
const patienceMs = 20_000;

/**
 * What a description file says, its texts in a language where it has it; nothing is stored. Rejects with
 * `describer.tooLarge` and `describer.unknown`.
 */
export async function readDescriber(file: File, language?: string): Promise<Understood> {
  if (file.size > maxDescriberBytes)
    throw new Problem('describer.tooLarge', { what: 'bytes', limit: maxDescriberBytes });
  const bytes = await file.arrayBuffer();
  const worker = new Worker(new URL('./describerWorker.ts', import.meta.url), { type: 'module' });
  try {
    return await new Promise<Understood>((resolve, reject) => {
      const unknown = () => reject(new Problem('describer.unknown', { file: file.name }));
      worker.onmessage = ({ data }: MessageEvent<Understood>) => resolve(data);
      worker.onerror = unknown;
      setTimeout(unknown, patienceMs);
      worker.postMessage({ bytes, language } satisfies Asked, [bytes]);
    });
  } finally {
    worker.terminate();
  }
}
