import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  // The built server is one program, read in less time than its packages one by one; tests read only what they need.
  ssr: process.env['VITEST'] ? {} : { noExternal: true, external: ['knex', 'pg', 'ws'] },
  build: { reportCompressedSize: false },
});
