export type { GriboConfig } from './config.js';
export { run } from './program.js';
