import { spawn, type ChildProcess } from 'node:child_process';

export interface SupervisedOptions {
  name: string;
  script: string;
  args?: readonly string[];
  /** Folder that it runs in; the launcher's where it is not said. */
  cwd?: string;
  /** Options of Node itself. */
  flags?: readonly string[];
  env: NodeJS.ProcessEnv;
  /** A file descriptor for what it prints. */
  log: number;
  say: (line: string) => void;
}

const shortestPause = 200;
const longestPause = 5000;
/** A process that lived this long begins again with the shortest pause. */
const longLife = 10_000;
const endWithinMs = 5000;

/** A Node process that is started again whenever it ends by itself. */
export class Supervised {
  private child: ChildProcess | undefined;
  private ending = false;
  /** It was asked to begin anew. */
  private wanted = false;
  private pause = shortestPause;
  private retry: NodeJS.Timeout | undefined;

  constructor(private readonly options: SupervisedOptions) {}

  /** Undefined while it does not run. */
  get pid(): number | undefined {
    const { child } = this;
    return child?.exitCode === null && child.signalCode === null ? child.pid : undefined;
  }

  start(): void {
    const { name, script, args = [], cwd, flags = [], env, log, say } = this.options;
    const begun = performance.now();
    // A group of its own: Ctrl-C in the terminal reaches only the launcher, which stops everything in order.
    const child = spawn(process.execPath, ['--enable-source-maps', ...flags, script, ...args], {
      env,
      ...(cwd ? { cwd } : {}),
      stdio: ['ignore', log, log, 'ipc'],
      detached: true,
    });
    this.child = child;
    child.on('exit', (code, signal) => {
      if (this.ending) return;
      if (this.wanted) {
        this.wanted = false;
        this.start();
        return;
      }
      if (performance.now() - begun > longLife) this.pause = shortestPause;
      say(`${name} ended (${signal ?? `code ${code}`}); it is started again.`);
      this.retry = setTimeout(() => this.start(), this.pause);
      this.pause = Math.min(this.pause * 2, longestPause);
    });
  }

  /** Ends it at once, whatever state it is in; then it is started again. */
  kill(): void {
    this.child?.kill('SIGKILL');
  }

  /** Ends it and starts it again at once: its script is another one now. */
  restart(): void {
    this.wanted = true;
    this.child?.kill('SIGTERM');
  }

  async stop(): Promise<void> {
    this.ending = true;
    clearTimeout(this.retry);
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
    child.kill('SIGTERM');
    const hard = setTimeout(() => child.kill('SIGKILL'), endWithinMs);
    await ended;
    clearTimeout(hard);
  }
}
