import type { DeprecationNotice } from './declared.js';

/**
 * Whether the last day of something is over: it is there for the whole of that day, in UTC.
 *
 * @param notice what is said of its going; null: it stays
 * @param today such as `2026-11-29`
 */
export const isOver = (
  notice: Pick<DeprecationNotice, 'sunset'> | null | undefined,
  today: string,
): boolean => {
  const sunset = notice?.sunset ?? null;
  return sunset !== null && sunset < today;
};

/** The day of a moment, in UTC. */
export const dayOf = (moment: Date): string => moment.toISOString().slice(0, 10);
