export type { GriboConfig } from './config.js';
export { run } from './program/program.js';
