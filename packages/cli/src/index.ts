/**
 * What a `gribo.config.ts` is written with, and the data of the board.
 *
 * @module @gribo/cli
 */
export type { BesideData, BesideItem } from './board/beside-data.js';
export type {
  BoardComparison,
  BoardData,
  BoardEndpoint,
  BoardEntity,
  BoardFact,
  BoardTable,
} from './board/board-data.js';
export type { GriboConfig } from './config/config.js';
export { run } from './program/program.js';
export type { Mark } from './show/pairs.js';
