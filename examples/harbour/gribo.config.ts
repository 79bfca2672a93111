import type { GriboConfig } from '@gribo/cli';
import { harbour } from './src/api.js';
import { audienceOf } from './src/audience.js';
import * as functions from './src/functions.js';
import * as inputs from './src/inputs.js';
import { db } from './src/model.js';
import * as shapes from './src/shapes.js';
import { harbourStore } from './src/store.js';

export default {
  api: harbour,
  store: harbourStore,
  model: db,
  audience: audienceOf,
  names: { db, ...shapes, ...inputs },
  samples: { seed: 'merrow', rows: { vessel: 20, portCall: 30, cargoItem: 40 } },
  functions: { './dist/functions.js': functions },
  openApi: {
    info: { description: 'Vessels, berths and port calls of a small harbour. All of it is made up.' },
    servers: [{ url: 'http://127.0.0.1:8080', description: 'npm start' }],
    securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
    security: [{}, { token: [] }],
    formatParameter: true,
  },
  accepted: [
    {
      code: 'unshown',
      place: 'operator.createdAt',
      reason: 'When a row was entered is for the office only.',
    },
    {
      code: 'unshown',
      place: 'operator.updatedAt',
      reason: 'When a row was entered is for the office only.',
    },
    { code: 'unbounded', place: 'quays.list/parts*', reason: 'The harbour has six quays.' },
  ],
} satisfies GriboConfig;
