import type { GriboConfig } from '@gribo/cli';
import { harbour } from './src/api.js';
import { callerOf } from './src/caller.js';
import { NOW } from './src/data.js';
import * as functions from './src/functions.js';
import { handlers } from './src/handlers.js';
import * as inputs from './src/inputs.js';
import { db } from './src/model.js';
import * as shapes from './src/shapes.js';

export default {
  api: harbour,
  // Drivers are loaded by the commands that open the store, and by no other.
  store: async () => (await import('./src/store.js')).harbourStore(),
  model: db,
  caller: callerOf,
  handlers,
  callers: {
    public: { audience: 'public' },
    lantern: { audience: 'agent', user: 'lantern', operatorId: 2 },
    halvane: { audience: 'agent', user: 'halvane', operatorId: 8 },
    office: { audience: 'harbourMaster', user: 'office' },
  },
  now: () => NOW,
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
    { code: 'everybodys-rows', place: 'pilot', reason: 'The office sees all of its pilots.' },
    { code: 'everybodys-rows', place: 'positionReport', reason: 'Where vessels are is for everybody.' },
    { code: 'unbounded', place: 'quays.list/parts*', reason: 'The harbour has six quays.' },
  ],
} satisfies GriboConfig;
