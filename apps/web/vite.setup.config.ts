import { defineConfig } from 'vite';

// What runs beside the web server: the database set-up, which the launcher runs once before, and the process that
// reads files from outside.
export default defineConfig({
  ssr: { noExternal: true, external: ['knex', 'pg'] },
  publicDir: false,
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'build-setup',
    minify: false,
    rolldownOptions: {
      input: { setup: 'src/lib/server/setup.ts', fileReader: 'src/lib/server/files/fileReader.ts' },
    },
  },
});
