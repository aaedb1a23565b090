import { Problem, type ProblemReport } from '@fadenkreuz/core';
import { readDescriber, type AnyDescriber, type Described } from '@fadenkreuz/core/describers';

/** What the worker says of a file. */
export type Understood = Described<AnyDescriber> | { problem: ProblemReport };

/** Reads description files beside the page, so that a large or hostile one does not hold it up. */
self.onmessage = ({ data }: MessageEvent<ArrayBuffer>) => {
  const answer = (understood: Understood) => self.postMessage(understood);
  try {
    answer(readDescriber(new Uint8Array(data), TextDecoder));
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    answer({ problem: error.report() });
  }
};
