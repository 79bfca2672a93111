import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describeLayout } from '../../gribo/src/testing/layout.js';

describeLayout(
  '@gribo/http',
  dirname(fileURLToPath(import.meta.url)),
  {
    message: [],
    formats: [],
    problems: ['message', 'formats'],
    settings: ['formats', 'problems'],
    request: ['message', 'settings', 'formats', 'problems'],
    response: ['message', 'request', 'settings', 'formats', 'problems'],
    operations: ['message', 'request', 'response', 'settings', 'problems'],
    handlers: ['operations', 'request', 'problems'],
    life: ['message', 'settings', 'problems'],
    stores: ['message', 'operations', 'request', 'problems'],
    pipeline: [
      'life',
      'stores',
      'message',
      'handlers',
      'operations',
      'request',
      'response',
      'settings',
      'formats',
      'problems',
    ],
    hosting: ['message', 'life'],
    top: [
      'message',
      'pipeline',
      'life',
      'stores',
      'handlers',
      'hosting',
      'operations',
      'request',
      'response',
      'settings',
      'formats',
      'problems',
    ],
  },
  [
    ...[
      'gribo',
      '@fastify/busboy',
      '@hono/node-server',
      'cborg',
      'content-disposition',
      'content-type',
      'csv-parse',
    ],
    ...['negotiator', 'range-parser', 'saxes', 'node:'],
  ],
);
