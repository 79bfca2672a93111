import { readFile } from 'node:fs/promises';
import { dirname, extname, join, normalize } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Store } from 'gribo';
import { editionNames, inAskedEdition } from '../asked/asked-edition.js';
import { isSending } from '../asked/sending.js';
import { outputsOf } from '../build/outputs.js';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { type BesideQuery, besideData } from './beside-data.js';
import { boardData } from './board-data.js';
import type { DraftWish } from './draft-wish.js';
import { drafted } from './drafted.js';
import { rowsSeen } from './rows-seen.js';
import { writeDraft } from './write-draft.js';

/** Where the page is: built beside this package's code. */
export const BOARD_FOLDER: string = fileURLToPath(
  new URL('./dist/board-page/', import.meta.resolve('@gribo/cli/package.json')),
);

/** The part of the server's paths that is the board's. */
export const BOARD_PATH = '/_board';

const TYPES: Readonly<Record<string, string>> = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
  '.svg': 'image/svg+xml',
  '.woff2': 'font/woff2',
};

/** The page may load what is here, and send to here; nothing else. */
const POLICY =
  "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'; base-uri 'none'";

const json = (value: unknown, status = 200): Response =>
  new Response(JSON.stringify(value), {
    status,
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
  });

/** What the page wishes for. */
const wishOf = (text: string): DraftWish => {
  try {
    return JSON.parse(text) as DraftWish;
  } catch {
    throw new Mistake('The wish for a draft is no JSON.');
  }
};

/** What was made as JSON, or why there is nothing: the page shows it, for this is the developer's own machine. */
const replyOf = async (work: () => Promise<unknown>): Promise<Response> => {
  try {
    return json(await work());
  } catch (error) {
    return json({ detail: error instanceof Error ? error.message : String(error) }, 422);
  }
};

const fileAt = async (path: string): Promise<Response> => {
  const inside = normalize(path === '/' || path === '' ? '/index.html' : path);
  try {
    const content = await readFile(join(BOARD_FOLDER, inside));
    const type = TYPES[extname(inside)] ?? 'application/octet-stream';
    return new Response(content, {
      headers: {
        'content-type': type,
        'content-security-policy': POLICY,
        'x-content-type-options': 'nosniff',
      },
    });
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    if (code === 'ENOENT' || code === 'EISDIR')
      return new Response('There is nothing here.', { status: 404 });
    throw error;
  }
};

/** The board behind HTTP: its page, its data, and word of changes. */
export class BoardServer {
  readonly #store: Store;
  readonly #configPath: string;
  readonly #listeners = new Set<ReadableStreamDefaultController<Uint8Array>>();
  #config: GriboConfig;
  /** The declarations before the last save; null: nothing was saved since the server began. */
  #before: GriboConfig | null = null;

  constructor(config: GriboConfig, configPath: string, store: Store) {
    this.#config = config;
    this.#configPath = configPath;
    this.#store = store;
  }

  /** Takes other declarations and tells every page that is open. */
  changed(config: GriboConfig): void {
    this.#before = this.#config;
    this.#config = config;
    for (const listener of this.#listeners) listener.enqueue(new TextEncoder().encode('data: changed\n\n'));
  }

  /** Lets go of every page that is open, so that the server can end. */
  end(): void {
    for (const listener of this.#listeners) listener.close();
    this.#listeners.clear();
  }

  /** @param path what comes after the board's own part of the path */
  async handle(path: string, search: URLSearchParams): Promise<Response> {
    if (path === '/data')
      return replyOf(async () => {
        const names = editionNames(this.#config);
        return boardData(this.#in(search), this.#configPath, true, this.#before !== null, names);
      });
    if (path === '/beside') return this.#beside(search);
    if (path === '/events') return this.#events();
    if (path === '/rows') return this.#rows(search);
    if (path === '/draft')
      return replyOf(async () => drafted(wishOf(search.get('wish') ?? ''), this.#config, this.#store));
    if (path.startsWith('/openapi.')) return this.#document(path.slice(1), this.#in(search));
    return fileAt(path);
  }

  /** The declarations in the edition that the page asks about; the newest where it asks about none that is there. */
  #in(search: URLSearchParams, config = this.#config): GriboConfig {
    const edition = search.get('edition') ?? '';
    return editionNames(config).includes(edition) ? inAskedEdition(config, { edition }) : config;
  }

  #document(path: string, config: GriboConfig): Response {
    const found = outputsOf('openapi', config).find((output) => output.path === path);
    if (found === undefined) return new Response('There is nothing here.', { status: 404 });
    const type = path.endsWith('.yaml') ? 'application/yaml' : 'application/json';
    return new Response(found.text, { headers: { 'content-type': type, 'cache-control': 'no-store' } });
  }

  async #beside(search: URLSearchParams): Promise<Response> {
    const query: BesideQuery = {
      endpoint: search.get('endpoint') ?? '',
      audience: search.get('audience'),
      caller: search.get('caller'),
      asked: (search.get('with') ?? '').split(',').filter((name) => name !== ''),
      key: search.get('key'),
    };
    const config = this.#in(
      search,
      search.get('at') === 'before' ? (this.#before ?? this.#config) : this.#config,
    );
    const endpoint = config.api.plan.endpoints.find(({ name }) => name === query.endpoint);
    if (endpoint === undefined || !isSending(endpoint)) return json({ detail: 'It sends nothing.' }, 404);
    return replyOf(() => besideData(this.#store, config, endpoint, query));
  }

  #rows(search: URLSearchParams): Promise<Response> {
    const whom = { audience: search.get('audience'), caller: search.get('caller') };
    return replyOf(() => rowsSeen(this.#store, this.#in(search), search.get('entity') ?? '', whom));
  }

  /**
   * Writes a draft as a new file beside the configuration, where a page of this server asks for it.
   *
   * @param request its body says `{ wish, file }`
   */
  async write(request: Request): Promise<Response> {
    const site = request.headers.get('sec-fetch-site');
    const origin = request.headers.get('origin');
    const isOwn = origin === new URL(request.url).origin && (site === null || site === 'same-origin');
    if (!isOwn || request.headers.get('content-type') !== 'application/json')
      return new Response('Only the board itself may write.', { status: 403 });
    return replyOf(async () => {
      const { wish, file } = (await request.json()) as { readonly wish: DraftWish; readonly file: string };
      const { source, wrong } = await drafted(wish, this.#config, this.#store);
      if (wrong !== null) throw new Mistake(wrong);
      return { file: await writeDraft(dirname(this.#configPath), file, source) };
    });
  }

  #events(): Response {
    let mine: ReadableStreamDefaultController<Uint8Array> | null = null;
    const body = new ReadableStream<Uint8Array>({
      start: (controller) => {
        mine = controller;
        this.#listeners.add(controller);
        controller.enqueue(new TextEncoder().encode(': open\n\n'));
      },
      cancel: () => {
        if (mine !== null) this.#listeners.delete(mine);
      },
    });
    return new Response(body, {
      headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
    });
  }
}
