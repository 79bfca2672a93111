import { cp, readFile } from 'node:fs/promises';
import { join, relative } from 'node:path';
import type { Store } from 'gribo';
import { cellsAt } from 'gribo/kit';
import { isSending } from '../asked/sending.js';
import { outputsOf } from '../build/outputs.js';
import type { GriboConfig } from '../config/config.js';
import { writeWhole } from '../running/write-whole.js';
import { Mistake } from '../screen/mistake.js';
import { withProgress } from '../screen/progress.js';
import type { Screen } from '../screen/screen.js';
import { type BesideData, besideData } from './beside-data.js';
import { boardData } from './board-data.js';
import { BOARD_FOLDER } from './board-server.js';

export interface BoardOptions {
  readonly out: string;
}

/** What is asked of the copy, as it is looked up in it. */
const keyOf = (endpoint: string, audience: string | null): string => JSON.stringify([endpoint, audience]);

/** The first row of every endpoint, for every audience that it answers. */
const besides = async (config: GriboConfig, store: Store): Promise<Readonly<Record<string, BesideData>>> => {
  const found: Record<string, BesideData> = {};
  for (const endpoint of config.api.plan.endpoints) {
    if (!isSending(endpoint)) continue;
    for (const { audience } of cellsAt(config.api.plan, endpoint)) {
      const query = { endpoint: endpoint.name, audience, caller: null, asked: [], key: null };
      const made = await besideData(store, config, endpoint, query);
      found[keyOf(endpoint.name, audience)] = { ...made, keys: made.keys.slice(0, 1) };
    }
  }
  return found;
};

/** Text inside a script element of HTML: nothing in it may end the element. */
const inScript = (value: unknown): string => JSON.stringify(value).replaceAll('<', '\\u003c');

/** Writes a copy of the board with its data, to hand around: a folder that any web server can hand out. */
export const staticBoard = async (
  config: GriboConfig,
  configPath: string,
  openStore: () => Promise<Store>,
  { out }: BoardOptions,
  screen: Screen,
): Promise<void> => {
  const data = boardData(config, configPath, false);
  const copy = {
    data,
    besides: await withProgress('Asking every endpoint', async () => besides(config, await openStore())),
  };
  try {
    await cp(BOARD_FOLDER, out, { recursive: true });
  } catch (error) {
    throw new Mistake(
      `${out} could not be written: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
  const page = join(out, 'index.html');
  const html = await readFile(page, 'utf8');
  const script = `<script type="application/json" id="copy">${inScript(copy)}</script>`;
  const documents = outputsOf('openapi', config).map(({ path, text }) => ({ path: join(out, path), text }));
  await writeWhole([{ path: page, text: html.replace('</head>', () => `${script}</head>`) }, ...documents]);
  screen.print(
    `${relative(process.cwd(), page)}: the board of ${data.title} ${data.version}, with made data and no server behind it.`,
  );
};
