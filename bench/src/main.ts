import { benchFirstUse } from './first-use.js';
import { benchRead } from './read.js';
import { benchSituations } from './situations.js';
import { benchStream } from './stream.js';
import { benchTypes } from './types.js';
import { benchWrite } from './write.js';

console.log(`Node ${process.version}; both sides in one run, medians of alternating rounds\n`);
const written = benchWrite();
const read = benchRead();
benchFirstUse();
const settled = benchSituations();
await benchStream();
benchTypes();
const reached = written && read && settled;
if (!reached) console.log('\nA ratio is below its bar.');
process.exitCode = reached ? 0 : 1;
