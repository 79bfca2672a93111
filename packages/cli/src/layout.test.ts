import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describeLayout } from '../../gribo/src/testing/layout.js';

const SHARED = ['running', 'asked', 'config', 'screen'];

describeLayout(
  '@gribo/cli',
  dirname(fileURLToPath(import.meta.url)),
  {
    screen: [],
    config: ['screen'],
    asked: ['config', 'screen'],
    running: ['asked', 'config', 'screen'],
    review: ['config', 'screen'],

    // A folder for each command; a few show what others show too.
    answers: SHARED,
    show: SHARED,
    table: SHARED,
    try: SHARED,
    draft: SHARED,
    play: ['show', ...SHARED],
    here: ['review', ...SHARED],
    formats: SHARED,
    scan: SHARED,
    complete: SHARED,
    init: ['draft', 'scan', ...SHARED],
    build: SHARED,
    diff: ['review', ...SHARED],
    // What an edition promises is held against what is declared.
    publish: ['build', 'diff', ...SHARED],
    retire: SHARED,
    check: ['publish', 'retire', 'review', ...SHARED],
    trace: ['review', ...SHARED],
    board: ['build', 'diff', 'draft', 'show', 'review', 'table', ...SHARED],
    serve: ['board', ...SHARED],

    program: [
      ...[
        'answers',
        'here',
        'init',
        'complete',
        'show',
        'table',
        'try',
        'draft',
        'play',
        'formats',
        'scan',
        'build',
        'check',
        'diff',
        'publish',
        'retire',
        'trace',
      ],
      ...['board', 'serve', 'running', 'screen'],
    ],
    top: ['program', 'board', 'show', 'config'],
  },
  [
    ...[
      '@bomb.sh/tab',
      'gribo',
      '@gribo/http',
      '@gribo/sql',
      'chokidar',
      'cli-table3',
      'commander',
      'esbuild',
    ],
    ...['jiti', 'json-source-map', 'json-stringify-pretty-compact', 'kysely', 'picocolors', 'string-width'],
    ...['js-yaml', 'sarif', 'node:'],
  ],
);
