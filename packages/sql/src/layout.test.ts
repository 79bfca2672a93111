import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describeLayout } from '../../gribo/src/testing/layout.js';

describeLayout(
  '@gribo/sql',
  dirname(fileURLToPath(import.meta.url)),
  {
    kysely: [],
    kinds: [],
    answers: [],
    errors: [],
    catalogue: ['kysely'],
    dialects: ['kinds', 'catalogue', 'errors', 'kysely'],
    capacity: ['dialects', 'catalogue', 'kinds', 'kysely'],
    load: ['dialects', 'kinds'],
    change: ['dialects', 'capacity', 'load', 'errors', 'kinds'],
    scan: ['dialects', 'catalogue', 'kinds', 'kysely'],
    store: ['load', 'change', 'capacity', 'scan', 'dialects', 'errors', 'kysely'],
    top: ['answers', 'store', 'scan', 'load', 'dialects', 'errors', 'kysely'],
  },
  ['gribo', 'kysely', 'pg', 'mysql2', 'node:async_hooks', 'node:fs', 'node:net', 'node:timers'],
);
