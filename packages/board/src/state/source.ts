import type { BesideData, BoardData, DraftData, DraftWish, RowsSeen } from '@gribo/cli';

/** What the board asks about an endpoint's rows. */
export interface Asked {
  readonly endpoint: string;
  readonly audience: string | null;
  readonly caller: string | null;
  readonly key: string | null;
  readonly with: readonly string[];
  /** Whether it is answered as it was before the last save. */
  readonly isBefore?: boolean;
  /** Another edition than the one that is shown. */
  readonly edition?: string;
}

/** Where the board's data is from: a server, or the page itself where it is a copy. */
export interface Source {
  /** @param edition the edition to show; empty: the newest */
  data(edition: string): Promise<BoardData>;
  beside(asked: Asked): Promise<BesideData>;
  /** Which stored rows of an entity a caller sees and changes. */
  rows(entity: string, audience: string | null, caller: string | null, edition: string): Promise<RowsSeen>;
  draft(wish: DraftWish): Promise<DraftData>;
  /** Writes a draft as a new file. @returns where it is */
  write(wish: DraftWish, file: string): Promise<{ readonly file: string }>;
  /** Calls back when declarations changed. @returns what ends it */
  listen(changed: () => void): () => void;
}

/** What a copy holds. */
interface Copy {
  readonly data: BoardData;
  readonly besides: Readonly<Record<string, BesideData>>;
}

const failed = async (response: Response): Promise<Error> => {
  const text = await response.text();
  try {
    return new Error((JSON.parse(text) as { detail?: string }).detail ?? text);
  } catch {
    return new Error(text);
  }
};

const read = async <T>(path: string): Promise<T> => {
  const response = await fetch(path);
  if (!response.ok) throw await failed(response);
  return (await response.json()) as T;
};

const live: Source = {
  data: (edition) => read(`./data?${new URLSearchParams({ edition })}`),
  beside: ({ endpoint, audience, caller, key, with: names, isBefore, edition = '' }) => {
    const query = new URLSearchParams({ endpoint, with: names.join(','), edition });
    if (audience !== null) query.set('audience', audience);
    if (caller !== null) query.set('caller', caller);
    if (key !== null) query.set('key', key);
    if (isBefore === true) query.set('at', 'before');
    return read(`./beside?${query}`);
  },
  rows: (entity, audience, caller, edition) => {
    const query = new URLSearchParams({ entity, edition });
    if (audience !== null) query.set('audience', audience);
    if (caller !== null) query.set('caller', caller);
    return read(`./rows?${query}`);
  },
  draft: (wish) => read(`./draft?${new URLSearchParams({ wish: JSON.stringify(wish) })}`),
  write: async (wish, file) => {
    const headers = { 'content-type': 'application/json' };
    const response = await fetch('./draft', {
      method: 'POST',
      headers,
      body: JSON.stringify({ wish, file }),
    });
    if (!response.ok) throw await failed(response);
    return (await response.json()) as { readonly file: string };
  },
  listen: (changed) => {
    const events = new EventSource('./events');
    events.onmessage = changed;
    return () => events.close();
  },
};

const NO_SERVER = 'This is a copy: gribo serve has a server for it.';

const copied = ({ data, besides }: Copy): Source => ({
  data: () => Promise.resolve(data),
  beside: ({ endpoint, audience }) => {
    const found = besides[JSON.stringify([endpoint, audience])];
    return found === undefined
      ? Promise.reject(new Error(`${endpoint} does not answer ${audience ?? 'callers of no audience'}.`))
      : Promise.resolve(found);
  },
  rows: () => Promise.reject(new Error(NO_SERVER)),
  draft: () => Promise.reject(new Error(NO_SERVER)),
  write: () => Promise.reject(new Error(NO_SERVER)),
  listen: () => () => undefined,
});

/** The page's own data where it is a copy, else its server. */
export const openSource = (): Source => {
  const copy = document.getElementById('copy')?.textContent;
  return copy == null ? live : copied(JSON.parse(copy) as Copy);
};
