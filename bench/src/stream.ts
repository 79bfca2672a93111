import { writer } from 'gribo';
import { alone, type Figure } from './figure.js';
import { PositionLines, reports } from './positions.js';

const EARLY = 10_000;

const megabytes = (bytes: number): string => (bytes / 1e6).toFixed(0);

/** Streams a million rows, with how much memory that takes after the first ones. */
export const benchStream = async (): Promise<Figure> => {
  const reader = writer(PositionLines).stream(reports()).getReader();
  let bytes = 0;
  let early = 0;
  let most = 0;
  const start = performance.now();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    bytes += value.length;
    const { rss } = process.memoryUsage();
    if (early === 0 && bytes > EARLY * 100) early = rss;
    most = Math.max(most, rss);
  }
  const seconds = (performance.now() - start) / 1000;
  return alone('stream of 1,000,000 rows as JSON', bytes / seconds / 1e6, 'MB/s', {
    beside: `RSS ${megabytes(early)} MB after 10,000 rows, ${megabytes(most)} MB at its highest`,
  });
};
