#!/usr/bin/env node
import module from 'node:module';

// Where Node can, what it has compiled once is kept for the next command.
module.enableCompileCache?.();
const { run } = await import('../lib/index.js');
const exitCode = await run(process.argv);
// Once all is written, end, even where a store has left something open.
process.stdout.write('', () => process.exit(exitCode));
