#!/usr/bin/env node
import { run } from '../lib/index.js';

const exitCode = await run(process.argv);
// Once all is written, end, even where a store has left something open.
process.stdout.write('', () => process.exit(exitCode));
