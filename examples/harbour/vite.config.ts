import { defineConfig } from 'vite';

// One file for Node.js; what is installed stays outside, the library's packages of this workspace go in.
export default defineConfig({
  resolve: { conditions: ['@gribo/source', 'module', 'node', 'development|production'] },
  ssr: { resolve: { conditions: ['@gribo/source', 'module', 'node', 'development|production'] } },
  build: { ssr: 'src/server.ts', outDir: 'build', target: 'node20' },
});
