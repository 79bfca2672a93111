import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describeLayout } from '../../gribo/src/testing/layout.js';

describeLayout(
  '@gribo/drizzle',
  dirname(fileURLToPath(import.meta.url)),
  { model: [], store: [], top: ['model', 'store'] },
  ['gribo', '@gribo/sql', 'drizzle-orm', 'kysely'],
);
