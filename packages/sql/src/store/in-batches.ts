import type { RowQuery } from 'gribo/kit';

/**
 * The batches of a query's rows: each begins behind the last row of the one before. While one batch is used, the
 * next is on its way, and no more than that.
 *
 * @param most rows of a batch
 * @param placeOf where a row stands in the order
 * @param load loads the rows of one batch
 */
export async function* inBatches<R>(
  query: RowQuery,
  most: number,
  placeOf: (row: R) => readonly unknown[],
  load: (query: RowQuery) => Promise<readonly R[]>,
): AsyncGenerator<readonly R[]> {
  const { offset: _offset, ...rest } = query;
  let left = query.limit ?? Number.POSITIVE_INFINITY;
  let limit = Math.min(most, left);
  let coming: Promise<readonly R[]> | null = limit > 0 ? load({ ...query, limit }) : null;
  try {
    while (coming !== null) {
      const rows: readonly R[] = await coming;
      coming = null;
      left -= rows.length;
      const last = rows.at(-1);
      if (last !== undefined && rows.length === limit && left > 0) {
        limit = Math.min(most, left);
        coming = load({ ...rest, limit, after: placeOf(last) });
        // Whoever uses the rows before is told of it when they come to it.
        coming.catch(() => undefined);
      }
      yield rows;
    }
  } finally {
    // A connection that is asked something is not let go before it has answered.
    await coming?.catch(() => undefined);
  }
}
