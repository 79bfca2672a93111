import { defineConfig } from 'vite';

// One file for Node.js.
export default defineConfig({ build: { ssr: 'src/main.ts', outDir: 'build', target: 'node20' } });
