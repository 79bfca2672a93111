import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { alone, type Figure } from './figure.js';

const EARLY_BYTES = 1_000_000;

/** How often the server is asked for its memory: once in so many bytes. */
const EVERY = 4_000_000;

const megabytes = (bytes: number): string => (bytes / 1e6).toFixed(0);

const answerOf = (child: ChildProcess): Promise<number> =>
  new Promise((resolve) => {
    child.once('message', (message) => resolve(Number(message)));
  });

const memoryOf = (child: ChildProcess): Promise<number> => {
  const answer = answerOf(child);
  child.send('memory');
  return answer;
};

const exported = async (child: ChildProcess, url: string, accept: string): Promise<Figure> => {
  const response = await fetch(url, { headers: { accept } });
  if (!response.ok || response.body === null) throw new Error(`the export answered ${response.status}`);
  let bytes = 0;
  let early = 0;
  let most = 0;
  let asked = 0;
  const start = performance.now();
  for await (const chunk of response.body) {
    bytes += chunk.length;
    if (early === 0 && bytes > EARLY_BYTES) early = await memoryOf(child);
    if (bytes - asked < EVERY) continue;
    asked = bytes;
    most = Math.max(most, await memoryOf(child));
  }
  const seconds = (performance.now() - start) / 1000;
  return alone(`export over HTTP of 1,000,000 rows as ${accept}`, bytes / seconds / 1e6, 'MB/s', {
    beside: `RSS of the server ${megabytes(early)} MB early, ${megabytes(most)} MB at its highest`,
  });
};

/** Exports a million rows over loopback: how fast, and how much memory the server takes. */
export const benchExport = async (): Promise<readonly Figure[]> => {
  const child = fork(fileURLToPath(new URL('export-server.js', import.meta.url)));
  try {
    const url = `http://127.0.0.1:${await answerOf(child)}/positions`;
    const figures: Figure[] = [];
    for (const accept of ['text/csv', 'application/x-ndjson', 'application/json'])
      figures.push(await exported(child, url, accept));
    return figures;
  } finally {
    child.kill();
  }
};
