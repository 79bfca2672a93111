import type { GriboConfig } from '@gribo/cli';
import { harbour } from './src/api.js';
import * as inputs from './src/inputs.js';
import { db } from './src/model.js';
import * as shapes from './src/shapes.js';
import { harbourStore } from './src/store.js';

export default {
  api: harbour,
  store: harbourStore,
  model: db,
  names: { db, ...shapes, ...inputs },
} satisfies GriboConfig;
