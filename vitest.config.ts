import { fileURLToPath } from 'node:url';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';

// A shared machine may halt for seconds; a limit is there to end what hangs.
const testTimeout = 120_000;
/** Tests that keep the time of devices are tried again once: docs/decisions/0028-a-second-try.md. */
const retry = 1;

/** Puts a protocol that only tests know into a list of protocols: the one line that a new one needs there. */
const oneMore = (list: string, name: string, from: string, before: string): Plugin => ({
  name: `toy protocol in ${list}`,
  enforce: 'pre',
  transform: (code, id) =>
    id.endsWith(list)
      ? `import { ${name} } from '${fileURLToPath(new URL(from, import.meta.url))}';\n` +
        code.replace(before, `${name}, ${before}`)
      : undefined,
});

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'core',
          include: ['packages/core/src/**/*.test.ts'],
          // Pure functions leave nothing behind: the files may share their modules.
          isolate: false,
          testTimeout,
        },
      },
      {
        test: {
          name: 'field',
          include: ['packages/field/src/**/*.test.ts'],
          // The tests share loopback addresses and the protocols' real ports.
          fileParallelism: false,
          isolate: false,
          // What runs beside each other in one file mostly waits.
          maxConcurrency: 32,
          retry,
          testTimeout,
          hookTimeout: testTimeout,
        },
      },
      {
        plugins: [
          oneMore(
            'core/src/protocols/list.ts',
            'toyWire',
            'packages/core/toyProtocol/protocol.ts',
            'ethernetIp, modbusTcp',
          ),
          oneMore(
            'field/src/protocols/list.ts',
            'toyDriver',
            'packages/field/toyProtocol/driver.ts',
            'anyDriver(ethernetIpDriver)',
          ),
        ],
        test: { name: 'toy-protocol', include: ['packages/field/toyProtocol/*.test.ts'], testTimeout },
      },
      {
        extends: 'apps/web/vite.config.ts',
        test: {
          name: 'web',
          include: ['apps/web/src/**/*.test.ts'],
          globalSetup: 'launch/src/testDatabase.ts',
          fileParallelism: false,
          isolate: false,
          testTimeout,
          hookTimeout: testTimeout,
        },
      },
      {
        test: {
          name: 'launch',
          include: ['launch/src/**/*.test.ts'],
          // They start the application, at the same ports.
          fileParallelism: false,
          isolate: false,
          retry,
          testTimeout,
          hookTimeout: testTimeout,
        },
      },
    ],
  },
});
