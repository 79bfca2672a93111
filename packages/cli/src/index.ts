export type { GriboConfig, KeyValue, Listing, Store } from './config.js';
export { run } from './program.js';
