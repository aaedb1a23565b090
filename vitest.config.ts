import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'core', include: ['packages/core/src/**/*.test.ts'] } },
      {
        test: {
          name: 'field',
          include: ['packages/field/src/**/*.test.ts'],
          // The tests share loopback addresses and the protocols' real ports.
          fileParallelism: false,
          testTimeout: 30_000,
        },
      },
      {
        extends: 'apps/web/vite.config.ts',
        test: {
          name: 'web',
          include: ['apps/web/src/**/*.test.ts', 'launch/src/**/*.test.ts'],
          globalSetup: 'launch/src/testDatabase.ts',
          fileParallelism: false,
          testTimeout: 30_000,
        },
      },
    ],
  },
});
