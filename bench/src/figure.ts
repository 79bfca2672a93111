/** What a figure is counted in. Of times, less is better; of the others, more. */
export type Unit = 'ms' | 's' | 'per s' | 'MB/s' | 'MB' | 'kB';

/** One line of the table. */
export interface Figure {
  readonly what: string;
  /** What it is compared with in the same run, after its output was compared; null: nothing. */
  readonly than: string | null;
  readonly theirs: number | null;
  readonly ours: number;
  readonly unit: Unit;
  /** How many times as good ours is, as the median of the rounds; null where nothing is compared. */
  readonly ratio: number | null;
  /** The ratio to reach; where nothing is compared, the most that ours may be. Null: there is none. */
  readonly bar: number | null;
  /** What else was seen, such as how long the loop was held up. */
  readonly beside: string;
}

const NOTHING = { than: null, theirs: null, ratio: null, bar: null, beside: '' } as const;

/** A figure that is compared with nothing. */
export const alone = (
  what: string,
  ours: number,
  unit: Unit,
  more: Partial<Pick<Figure, 'bar' | 'beside'>> = {},
): Figure => ({ ...NOTHING, what, ours, unit, ...more });

/** What a figure is of: the same in every run. */
export const keyOf = ({ what, than }: Figure): string => `${what}${than === null ? '' : `, against ${than}`}`;

export const isReached = ({ ratio, ours, bar }: Figure): boolean =>
  bar === null || (ratio === null ? ours <= bar : ratio >= bar);

export const median = (numbers: readonly number[]): number =>
  [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)] ?? Number.NaN;
