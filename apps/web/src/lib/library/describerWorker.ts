import { Problem, type ProblemReport } from '@fadenkreuz/core';
import { readDescriber, type AnyDescriber, type Described } from '@fadenkreuz/core/describers';

/** What the worker is asked. */
export interface Asked {
  bytes: ArrayBuffer;
  /** The language to read texts in, where the file has it. */
  language: string | undefined;
}

/** What the worker says of a file. */
export type Understood = Described<AnyDescriber> | { problem: ProblemReport };

/** Reads description files beside the page, so that a large or hostile one does not hold it up. */
self.onmessage = ({ data: { bytes, language } }: MessageEvent<Asked>) => {
  const answer = (understood: Understood) => self.postMessage(understood);
  try {
    answer(readDescriber(new Uint8Array(bytes), TextDecoder, language));
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    answer({ problem: error.report() });
  }
};
