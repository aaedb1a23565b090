import { fork, type ChildProcess } from 'node:child_process';
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
/** A reader that has nothing to do is ended after this time, ms. */
const idleMs = 60_000;
/** A larger file leaves much behind in its reader, which is ended with it, bytes. */
const smallFile = 1024 * 1024;

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
 * What a file from outside says, read in another process with limits of time and memory, so that no file holds the
 * server up. Throws what the way of reading throws, and `file.tookTooLong` or `file.tookTooMuch`.
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

/** Readers that wait for the next file: starting one takes half a second. */
const idle: Reader[] = [];

/** A process that reads files, one after the other. */
class Reader {
  private readonly process: ChildProcess;
  private retirement: NodeJS.Timeout | undefined;

  constructor(readonly memoryMb: number) {
    this.process = fork(readerFile(), {
      execArgv: [`--max-old-space-size=${memoryMb}`],
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    // Without listeners an error of a waiting process would end the server.
    this.process.on('error', () => this.end());
    this.process.on('exit', () => this.end());
  }

  /** Throws `file.tookTooLong` or `file.tookTooMuch`; the process is of no use after that. */
  async ask<Way extends keyof FileWays>(request: FileRequest, patienceMs: number): Promise<FileAnswer<Way>> {
    clearTimeout(this.retirement);
    let timer: NodeJS.Timeout | undefined;
    const { process, memoryMb } = this;
    process.ref();
    process.channel?.ref();
    let fail: (error: Error) => void;
    const ended = () => fail(new Problem('file.tookTooMuch', { memoryMb }));
    try {
      return await new Promise<FileAnswer<Way>>((take, reject) => {
        fail = reject;
        timer = setTimeout(
          () => reject(new Problem('file.tookTooLong', { seconds: patienceMs / 1000 })),
          patienceMs,
        );
        process.once('message', (answer) => take(answer as FileAnswer<Way>));
        process.once('error', reject).once('exit', ended);
        process.send(request, (error) => error && reject(error));
      });
    } finally {
      clearTimeout(timer);
      process.off('error', fail!).off('exit', ended).removeAllListeners('message');
    }
  }

  /** Waits for the next file, for a while, without keeping the server from ending. */
  rest(): void {
    idle.push(this);
    this.retirement = setTimeout(() => this.end(), idleMs);
    this.retirement.unref();
    this.process.unref();
    this.process.channel?.unref();
  }

  end(): void {
    clearTimeout(this.retirement);
    if (idle.includes(this)) idle.splice(idle.indexOf(this), 1);
    this.process.kill('SIGKILL');
  }
}

async function inProcess<Way extends keyof FileWays>(
  request: FileRequest,
  { patienceMs, memoryMb }: Limits,
): Promise<FileAnswer<Way>> {
  const waits = idle.findIndex((reader) => reader.memoryMb === memoryMb);
  const reader = waits < 0 ? new Reader(memoryMb) : idle.splice(waits, 1)[0]!;
  try {
    const answer = await reader.ask<Way>(request, patienceMs);
    if (request.bytes.length <= smallFile) reader.rest();
    else reader.end();
    return answer;
  } catch (error) {
    reader.end();
    throw error;
  }
}
