import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build, type Plugin } from 'vite';
import { defineConfig } from 'vitest/config';
import core from './packages/core/package.json' with { type: 'json' };

// A shared machine may halt for seconds; a limit is there to end what hangs.
const testTimeout = 120_000;
/** Tests that keep the time of devices are tried again once: docs/decisions/0028-a-second-try.md. */
const retry = 1;

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** Puts a protocol that only tests know into a list of protocols: the one line that a new one needs there. */
const oneMore = (list: string, name: string, from: string, before: string): Plugin => ({
  name: `toy protocol in ${list}`,
  enforce: 'pre',
  transform: (code, id) =>
    id.endsWith(list)
      ? `import { ${name} } from '${here(from)}';\n` + code.replace(before, `${name}, ${before}`)
      : undefined,
});

/** Where core stands as a file for each of its front doors, for as long as the tests run. */
const coreFiles = here(`node_modules/.core-for-tests/${process.pid}`);
process.once('exit', () => rmSync(coreFiles, { recursive: true, force: true }));

/** The front doors of core, by the name that they are imported by. */
const doors = Object.fromEntries(
  Object.entries(core.exports).map(([door, source]) => [
    join(core.name, door),
    { name: door === '.' ? 'core' : door.slice(2), source: here(join('packages/core', source)) },
  ]),
);

/**
 * Core through its front doors, in one file each, made anew at each start: to fetch its 400 modules one by one takes
 * most of a start. Its own tests have the modules themselves. `kind` names the core that these plugins make of it. It
 * is made when a test first wants it.
 */
const coreInOneFile = (kind = 'plain', plugins: Plugin[] = []): Plugin => {
  const outDir = join(coreFiles, kind);
  const make = () =>
    build({
      ...{ configFile: false, logLevel: 'error', plugins },
      build: {
        ...{ ssr: true, target: 'node20', minify: false, sourcemap: true, outDir },
        rolldownOptions: {
          input: Object.fromEntries(Object.values(doors).map(({ name, source }) => [name, source])),
        },
      },
    });
  return {
    name: 'core in one file',
    enforce: 'pre',
    async resolveId(source) {
      const door = doors[source];
      if (!door) return undefined;
      await (made[kind] ??= make());
      return join(outDir, `${door.name}.js`);
    },
  };
};
/** By kind: several projects want the same one. */
const made: Record<string, Promise<unknown>> = {};

const toyProtocolInCore = oneMore(
  'core/src/protocols/list.ts',
  'toyWire',
  'packages/core/toyProtocol/protocol.ts',
  'ethernetIp, modbusTcp',
);
const toyProtocolInField = oneMore(
  'field/src/protocols/list.ts',
  'toyDriver',
  'packages/field/toyProtocol/driver.ts',
  'anyDriver(ethernetIpDriver)',
);

/** The projects that are asked for by their names. */
const asked = process.argv.flatMap((arg, i, all) =>
  arg === '--project' ? [all[i + 1]!] : arg.startsWith('--project=') ? [arg.slice('--project='.length)] : [],
);
/** Vitest sets up every project, also those that it then leaves out: that of the web alone takes 2 s. */
const isSetUp = (name: string) =>
  asked.length === 0 || asked.includes(name) || asked.some((pattern) => /[*!]/.test(pattern));

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'core',
          include: ['packages/core/src/**/*.test.ts'],
          // Pure functions leave nothing behind: the files may share their modules.
          isolate: false,
          // They make much that is forgotten at once: with room for it a tenth less work is left.
          execArgv: ['--max-semi-space-size=64'],
          testTimeout,
        },
      },
      {
        plugins: [coreInOneFile()],
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
        plugins: [toyProtocolInField, coreInOneFile('with the toy protocol', [toyProtocolInCore])],
        test: { name: 'toy-protocol', include: ['packages/field/toyProtocol/*.test.ts'], testTimeout },
      },
      {
        extends: 'apps/web/vite.config.ts',
        plugins: [coreInOneFile()],
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
    ].filter(({ test }) => isSetUp(test.name)),
  },
});
