import { defineConfig } from 'vitest/config';

// A shared machine may halt for seconds; a limit is there to end what hangs.
const testTimeout = 60_000;

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
          testTimeout,
          hookTimeout: testTimeout,
        },
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
          testTimeout,
          hookTimeout: testTimeout,
        },
      },
    ],
  },
});
