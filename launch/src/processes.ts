import { readdir, readFile, readlink } from 'node:fs/promises';

/**
 * Processes of this computer by /proc. One that has ended, and that nobody asked for how, still stands there: where
 * nothing cleans up after lost processes, as in many containers, for good.
 */

/** State and start time (clock ticks since boot) of a process: fields 3 and 22 of /proc/PID/stat. */
async function statOf(pid: number): Promise<{ state: string; begun: string } | undefined> {
  const stat = await readFile(`/proc/${pid}/stat`, 'utf8').catch(() => '');
  const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
  return fields[19] === undefined ? undefined : { state: fields[0]!, begun: fields[19] };
}

/** When a process began; undefined when it does not live. */
export async function begunOf(pid: number): Promise<string | undefined> {
  const stat = await statOf(pid);
  return stat && stat.state !== 'Z' ? stat.begun : undefined;
}

/** Whether a process has ended and still stands in the list. */
export const isZombie = async (pid: number): Promise<boolean> => (await statOf(pid))?.state === 'Z';

/** Living processes that work in a folder. */
export async function workingIn(folder: string): Promise<number[]> {
  const pids = (await readdir('/proc')).filter((name) => /^\d+$/.test(name)).map(Number);
  const folders = await Promise.all(pids.map((pid) => readlink(`/proc/${pid}/cwd`).catch(() => '')));
  return pids.filter((_, i) => folders[i] === folder);
}
