import { defineConfig } from 'vite';

// The database set-up that the launcher runs once before the servers: migrations and the demo cell.
export default defineConfig({
  ssr: { noExternal: [/^@fadenkreuz\//] },
  publicDir: false,
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'build-setup',
    minify: false,
    rolldownOptions: { input: { setup: 'src/lib/server/setup.ts' } },
  },
});
