import { Problem, readCellFile } from '@fadenkreuz/core';
import { readDescriber } from '@fadenkreuz/core/describers';
import { readWorkbook } from './readWorkbook.js';

/** Everything that is read of files from outside; each way takes the bytes and gives plain data. */
const ways = {
  workbook: readWorkbook,
  describer: (bytes: Uint8Array) => readDescriber(bytes, TextDecoder),
  cell: (bytes: Uint8Array) => readCellFile(new TextDecoder().decode(bytes)),
};

/** What can be read, and what comes of it. */
export type FileWays = typeof ways;

/** What the process answers. */
export type FileAnswer<Way extends keyof FileWays> =
  | { value: ReturnType<FileWays[Way]> }
  | { problem: ReturnType<Problem['report']> };

/** What is asked of it. */
export interface FileRequest {
  way: keyof FileWays;
  bytes: Uint8Array;
}

// A process beside the server: it is ended when a file takes too long or too much (readFile.ts). In a thread, a file
// that takes all memory would end the server with it. It ends by itself when the server does.
process.on('message', ({ way, bytes }: FileRequest) => {
  const answer = (message: FileAnswer<keyof FileWays>) => process.send!(message);
  try {
    answer({ value: ways[way](bytes) });
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    answer({ problem: error.report() });
  }
});
