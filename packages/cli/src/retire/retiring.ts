import type { Source } from '../config/sources.js';

/** A condition on editions in a source, which one way or the other says nothing any more. */
export interface Retiring {
  readonly uri: string;
  /** From 1. */
  readonly line: number;
  /** The line as it is. */
  readonly text: string;
  readonly condition: string;
  /** Whether it holds in all editions that are left, or in none. */
  readonly holds: boolean;
}

/** A condition on editions, as it is usually written. */
const CONDITION = /\b(editionFrom|editionBefore)\(\s*(['"`])([^'"`]+)\2\s*\)/g;

/**
 * The conditions of sources that are settled once an edition, the oldest, is gone.
 *
 * @param next the edition that is the oldest then: whatever is from there on, or from before, always is
 */
export const retiringIn = (sources: readonly Source[], edition: string, next: string): readonly Retiring[] =>
  sources.flatMap(({ uri, text }) => {
    const lines = text.split('\n');
    return lines.flatMap((line, i) =>
      [...line.matchAll(CONDITION)].flatMap(([condition, kind, , name]): readonly Retiring[] => {
        if (name !== edition && name !== next) return [];
        return [{ uri, line: i + 1, text: line.trim(), condition, holds: kind === 'editionFrom' }];
      }),
    );
  });
