import { defineConfig } from 'vite';

// Bundles our own packages; those of the registry stay outside and are loaded from node_modules.
export default defineConfig({
  ssr: { noExternal: [/^@fadenkreuz\//] },
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'dist',
    minify: false,
    rolldownOptions: { input: { agent: 'src/agent/main.ts', cli: 'src/cli/main.ts' } },
  },
});
