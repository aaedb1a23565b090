import { defineConfig } from 'vite';

export default defineConfig({
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'dist',
    minify: false,
    rolldownOptions: { input: { launch: 'src/launch.ts', backup: 'src/backupCommand.ts' } },
  },
});
