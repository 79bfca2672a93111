import type { BoardData } from '@gribo/cli';
import type { Source } from './source.js';

/** What every view is given. */
export interface ViewProps {
  readonly data: BoardData;
  readonly source: Source;
  /** Whom responses are for; null: callers of no audience. */
  readonly audience: string | null;
  /** The caller that is asked as, by its name; null: whoever is of the audience. */
  readonly caller: string | null;
  /** Goes up each time declarations changed. */
  readonly turn: number;
}
