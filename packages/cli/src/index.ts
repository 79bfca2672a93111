/**
 * What a `gribo.config.ts` is written with, and the data of the board.
 *
 * @module @gribo/cli
 */
export type { BesideData, BesideItem } from './board/beside-data.js';
export type {
  BoardComparison,
  BoardData,
  BoardEdition,
  BoardEndpoint,
  BoardEntity,
  BoardFact,
  BoardModelEntity,
  BoardTable,
} from './board/board-data.js';
export type { DraftMember, DraftTaken, DraftWish } from './board/draft-wish.js';
export type { DraftData } from './board/drafted.js';
export type { RowsSeen, SeenRow } from './board/rows-seen.js';
export type { GriboConfig } from './config/config.js';
export { run } from './program/program.js';
export type { Mark } from './show/pairs.js';
