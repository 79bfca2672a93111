import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// The page goes into the command's package, which serves it.
export default defineConfig({
  base: './',
  plugins: [react()],
  resolve: { conditions: ['@gribo/source', 'module', 'browser', 'development|production'] },
  build: { outDir: '../cli/dist/board-page', emptyOutDir: true, chunkSizeWarningLimit: 900 },
});
