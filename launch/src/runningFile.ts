import { readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { StartError } from './places.js';
import { begunOf } from './processes.js';

interface Running {
  pid: number;
  /** Tells this process from a later one with the same number. */
  begun: string;
  address: string;
}

/** The start that holds the data folder now; undefined when none does. */
export async function runningAt(home: string): Promise<Running | undefined> {
  const text = await readFile(join(home, 'running.json'), 'utf8').catch(() => '');
  const other = JSON.parse(text || '{"pid":0}') as Running;
  return other.pid && (await begunOf(other.pid)) === other.begun ? other : undefined;
}

/** Claims the data folder for this process. Throws a StartError when another start holds it. */
export async function claim(home: string, address: string): Promise<() => Promise<void>> {
  const path = join(home, 'running.json');
  const own: Running = { pid: process.pid, begun: (await begunOf(process.pid)) ?? '', address };
  for (let attempt = 0; ; attempt += 1) {
    try {
      await writeFile(path, JSON.stringify(own), { flag: 'wx' });
      return () => rm(path, { force: true });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST' || attempt > 2) throw error;
    }
    const other = await runningAt(home);
    if (other)
      throw new StartError(
        `Fadenkreuz runs already at ${other.address} (process ${other.pid})`,
        `open that address, or end it with Ctrl-C in its terminal or kill ${other.pid}`,
      );
    await rm(path, { force: true });
  }
}
