import { nodeListener } from '@gribo/http';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

const conditions = ['@gribo/source', 'module', 'development|production'];

/** While developing, the harbour's API answers beside the page. */
const api: Plugin = {
  name: 'harbour-api',
  configureServer: async (server) => {
    const { handle } = (await server.ssrLoadModule(
      '/src/server/api.ts',
    )) as typeof import('./src/server/api.js');
    const listener = nodeListener(handle);
    server.middlewares.use((request, response, next) => {
      if (request.url?.startsWith('/api/') === true) listener(request, response);
      else next();
    });
  },
};

export default defineConfig({
  plugins: [react(), api],
  resolve: { conditions: [...conditions, 'browser'] },
  ssr: { resolve: { conditions: [...conditions, 'node'] } },
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
});
