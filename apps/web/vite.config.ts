import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig, type Plugin } from 'vite';

/** Pages are made in the browser alone (routes/+layout.ts): what is built for the server has no components. */
const noComponentsForTheServer: Plugin = {
  name: 'no components for the server',
  apply: 'build',
  enforce: 'pre',
  load: (id, { ssr } = {}) => (ssr && id.endsWith('.svelte') ? '' : undefined),
};

export default defineConfig({
  plugins: [noComponentsForTheServer, tailwindcss(), sveltekit()],
  // The built server is one program, read in less time than its packages one by one; tests read only what they need.
  ssr: process.env['VITEST'] ? {} : { noExternal: true, external: ['knex', 'pg', 'ws'] },
  build: { reportCompressedSize: false },
});
