import type { Source } from '../config/sources.js';

/** A condition on editions in a source, which one way or the other says nothing any more, or may. */
export interface Retiring {
  readonly uri: string;
  /** From 1. */
  readonly line: number;
  /** The line as it is. */
  readonly text: string;
  readonly condition: string;
  /** Whether it holds in all editions that are left, or in none; null: the source does not say there which edition it is about. */
  readonly holds: boolean | null;
}

/** A condition on editions, with the name of one, or with what stands for a name. */
const CONDITION = /\b(editionFrom|editionBefore)\(\s*(?:(['"`])([^'"`$]+)\2|[^)]*?)\s*,?\s*\)/g;

/**
 * The conditions of sources that are settled once an edition, the oldest, is gone.
 *
 * @param next the edition that is the oldest then: whatever is from there on, or from before, always is
 */
export const retiringIn = (sources: readonly Source[], edition: string, next: string): readonly Retiring[] =>
  sources.flatMap(({ uri, text }) => {
    const lines = text.split('\n');
    return [...text.matchAll(CONDITION)].flatMap(
      ({ 0: found, 1: kind, 3: name, index }): readonly Retiring[] => {
        if (name !== undefined && name !== edition && name !== next) return [];
        const line = text.slice(0, index).split('\n').length;
        const condition = found.replaceAll(/\s+/g, ' ');
        const holds = name === undefined ? null : kind === 'editionFrom';
        return [{ uri, line, text: (lines[line - 1] ?? '').trim(), condition, holds }];
      },
    );
  });
