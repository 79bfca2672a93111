import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describeLayout } from '../../gribo/src/testing/layout.js';

describeLayout(
  '@gribo/testing',
  dirname(fileURLToPath(import.meta.url)),
  {
    answer: [],
    seals: [],
    rows: [],
    server: [],
    contract: [],
    top: ['answer', 'seals', 'rows', 'server', 'contract'],
  },
  ['gribo', '@gribo/http', 'ajv', 'ajv-formats', 'node:'],
);
