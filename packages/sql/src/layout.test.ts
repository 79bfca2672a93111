import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describeLayout } from '../../gribo/src/testing/layout.js';

describeLayout(
  '@gribo/sql',
  dirname(fileURLToPath(import.meta.url)),
  {
    kysely: [],
    kinds: [],
    catalogue: ['kysely'],
    dialects: ['kinds', 'catalogue', 'kysely'],
    load: ['dialects', 'kinds'],
    change: ['dialects', 'load', 'kinds'],
    scan: ['dialects', 'catalogue', 'kinds', 'kysely'],
    store: ['load', 'change', 'scan', 'dialects', 'kysely'],
    top: ['store', 'scan', 'load', 'dialects', 'kysely'],
  },
  ['gribo', 'kysely', 'pg', 'mysql2'],
);
