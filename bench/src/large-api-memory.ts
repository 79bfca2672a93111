import { largeApi, largeModel, writeEach } from './large-api.js';

/** The bytes in use once what nobody holds is gone: code that was made is on this heap too. */
const inUse = (): number => {
  if (globalThis.gc === undefined) throw new Error('start Node with --expose-gc');
  globalThis.gc();
  return process.memoryUsage().heapUsed;
};

const before = inUse();
const large = largeApi(largeModel());
const declared = inUse();
writeEach(large);
process.stdout.write(JSON.stringify({ declared: declared - before, answered: inUse() - declared }));
