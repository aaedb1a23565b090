import { chmod, mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { Cluster } from './cluster.js';

declare module 'vitest' {
  export interface ProvidedContext {
    databaseUrl: string;
  }
}

/** A port of loopback that nobody uses now. */
export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

/** For Vitest: a PostgreSQL of its own for the run, made and removed as the start command makes it. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  // Under /tmp, because the server of a run as root is another user, who must be able to enter it.
  const home = await mkdtemp(join('/tmp', 'fadenkreuz-test-'));
  await chmod(home, 0o755);
  const cluster = new Cluster(home, await freePort());
  await cluster.start();
  project.provide('databaseUrl', await cluster.ownerUrl());
  return async () => {
    await cluster.stop();
    await rm(home, { recursive: true, force: true });
  };
}
