import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describeLayout } from '../../gribo/src/testing/layout.js';

describeLayout(
  '@gribo/http',
  dirname(fileURLToPath(import.meta.url)),
  {
    formats: [],
    problems: ['formats'],
    settings: ['formats', 'problems'],
    request: ['settings', 'formats', 'problems'],
    response: ['request', 'settings', 'formats', 'problems'],
    operations: ['request', 'response', 'settings', 'problems'],
    handlers: ['operations', 'request', 'problems'],
    pipeline: ['handlers', 'operations', 'request', 'response', 'settings', 'formats', 'problems'],
    hosting: ['response'],
    top: [
      'pipeline',
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
      '@hono/node-server',
      'cborg',
      'content-type',
      'csv-parse',
      'csv-stringify',
      'fast-xml-parser',
      'saxes',
      'negotiator',
    ],
    'node:',
  ],
);
