import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** The processes of the benchmarks that measure over sockets, built as the application is. */
export default defineConfig({
  build: {
    ssr: true,
    target: 'node20',
    outDir: at('dist'),
    rollupOptions: {
      input: {
        'cyclic/run': at('cyclic/run.ts'),
        'cyclic/pages': at('cyclic/pages.ts'),
        'cyclic/ours': at('cyclic/ours.ts'),
        'cyclic/limit': at('cyclic/limit.ts'),
        'parameters/run': at('parameters/run.ts'),
        'parameters/beside': at('parameters/beside.ts'),
        'parameters/standIns': at('parameters/standIns.ts'),
        'requests/run': at('requests/run.ts'),
        'requests/client': at('requests/client.ts'),
        'requests/server': at('requests/server.ts'),
        'describers/run': at('describers/run.ts'),
        'edits/run': at('edits/run.ts'),
        'kinds/run': at('kinds/run.ts'),
        'exchanges/run': at('exchanges/run.ts'),
      },
      output: { entryFileNames: '[name].js' },
    },
  },
  ssr: { noExternal: [/^@fadenkreuz\//] },
});
