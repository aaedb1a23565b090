import { defineConfig } from 'vite';

// One file for each program is read in half the time of a hundred. What serves the agent loads its own parts.
export default defineConfig({
  ssr: { noExternal: true, external: ['fastify', '@fastify/websocket'] },
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'dist',
    minify: false,
    rolldownOptions: { input: { agent: 'src/agent/main.ts', cli: 'src/cli/main.ts' } },
  },
});
