import { type FetchHandler, serve } from '@gribo/http';
import { harbour } from '@gribo-examples/harbour/src/api.js';
import { callerOf } from '@gribo-examples/harbour/src/caller.js';
import { NOW } from '@gribo-examples/harbour/src/data.js';
import { handlers } from '@gribo-examples/harbour/src/handlers.js';
import { harbourStore } from '@gribo-examples/harbour/src/store.js';

/** The harbour's API, under /api. Its database is opened by the first request. */
export const handle: FetchHandler = serve(harbour, {
  store: () => harbourStore(),
  caller: callerOf,
  handlers,
  now: () => NOW,
  base: '/api',
});
