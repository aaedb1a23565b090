import { fork } from 'node:child_process';
import { resolve } from 'node:path';
import { Problem } from '@fadenkreuz/core';
import type { FileAnswer, FileRequest, FileWays } from './fileReader.js';

/** What reading one file may take: a hostile one of a few kilobytes could take minutes, or gigabytes. */
interface Limits {
  patienceMs: number;
  memoryMb: number;
}
const usualLimits: Limits = { patienceMs: 20_000, memoryMb: 768 };
/** Files that are read at a time; others wait for their turn. */
const atOnce = 2;

/** The built program; the launcher says where it is, the tests run beside it. */
const readerFile = () =>
  process.env['FADENKREUZ_FILE_READER'] ?? resolve('apps/web/build-setup/fileReader.js');

let busy = 0;
const waiting: (() => void)[] = [];

async function turn(): Promise<() => void> {
  if (busy >= atOnce) await new Promise<void>((go) => waiting.push(go));
  busy += 1;
  return () => {
    busy -= 1;
    waiting.shift()?.();
  };
}

/**
 * What a file from outside says, read in a process of its own with limits of time and memory, so that no file holds
 * the server up. Throws what the way of reading throws, and `file.tookTooLong` or `file.tookTooMuch`.
 */
export async function readFile<Way extends keyof FileWays>(
  way: Way,
  bytes: Uint8Array,
  limits = usualLimits,
): Promise<ReturnType<FileWays[Way]>> {
  const done = await turn();
  try {
    const answer = await inProcess<Way>({ way, bytes }, limits);
    if ('problem' in answer) throw new Problem(answer.problem.code, answer.problem.facts as never);
    return answer.value;
  } finally {
    done();
  }
}

/** Asks a process of its own, which is ended with the answer, or without one when it takes too long. */
async function inProcess<Way extends keyof FileWays>(
  request: FileRequest,
  { patienceMs, memoryMb }: Limits,
): Promise<FileAnswer<Way>> {
  const reader = fork(readerFile(), {
    execArgv: [`--max-old-space-size=${memoryMb}`],
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
  let timer: NodeJS.Timeout | undefined;
  try {
    return await new Promise<FileAnswer<Way>>((take, reject) => {
      timer = setTimeout(
        () => reject(new Problem('file.tookTooLong', { seconds: patienceMs / 1000 })),
        patienceMs,
      );
      reader.once('message', (answer) => take(answer as FileAnswer<Way>));
      reader.once('error', reject);
      reader.once('exit', () => reject(new Problem('file.tookTooMuch', { memoryMb })));
      reader.send(request);
    });
  } finally {
    clearTimeout(timer);
    reader.kill('SIGKILL');
  }
}
