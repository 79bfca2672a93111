import { fileURLToPath } from 'node:url';
import react from '@vitejs/plugin-react';
import { build } from 'esbuild';
import { defineConfig, type Plugin } from 'vite';
import { declarations } from './declarations.js';

const RUNNER = 'virtual:runner';
const SOURCE = fileURLToPath(new URL('./src/runner.ts', import.meta.url));

/** The program of the sandboxed frame as text: the frame may load nothing, so it is handed all it needs. */
const runner: Plugin = {
  name: 'runner',
  resolveId: (id) => (id === RUNNER ? `\0${RUNNER}` : null),
  load: async function (id) {
    if (id !== `\0${RUNNER}`) return null;
    this.addWatchFile(SOURCE);
    const { outputFiles } = await build({
      entryPoints: [SOURCE],
      bundle: true,
      minify: true,
      write: false,
      format: 'iife',
      target: 'es2022',
      conditions: ['@gribo/source'],
    });
    return `export default ${JSON.stringify(outputFiles[0]?.text ?? '')};`;
  },
};

const DECLARATIONS = 'virtual:declarations';

/** What the compiler behind the editor knows, as one module that is loaded with it. */
const known: Plugin = {
  name: 'declarations',
  resolveId: (id) => (id === DECLARATIONS ? `\0${DECLARATIONS}` : null),
  load: (id) => (id === `\0${DECLARATIONS}` ? `export default ${JSON.stringify(declarations())};` : null),
};

export default defineConfig({
  base: './',
  plugins: [react(), runner, known],
  worker: { format: 'es', plugins: () => [known] },
  resolve: { conditions: ['@gribo/source', 'module', 'browser', 'development|production'] },
  build: { target: 'es2022', chunkSizeWarningLimit: 15_000 },
});
