import type { BesideData, BoardData } from '@gribo/cli';

/** What the board asks about an endpoint's rows. */
export interface Asked {
  readonly endpoint: string;
  readonly audience: string | null;
  readonly caller: string | null;
  readonly key: string | null;
  readonly with: readonly string[];
}

/** Where the board's data is from: a server, or the page itself where it is a copy. */
export interface Source {
  data(): Promise<BoardData>;
  beside(asked: Asked): Promise<BesideData>;
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
  data: () => read('./data'),
  beside: ({ endpoint, audience, caller, key, with: names }) => {
    const query = new URLSearchParams({ endpoint, with: names.join(',') });
    if (audience !== null) query.set('audience', audience);
    if (caller !== null) query.set('caller', caller);
    if (key !== null) query.set('key', key);
    return read(`./beside?${query}`);
  },
  listen: (changed) => {
    const events = new EventSource('./events');
    events.onmessage = changed;
    return () => events.close();
  },
};

const copied = ({ data, besides }: Copy): Source => ({
  data: () => Promise.resolve(data),
  beside: ({ endpoint, audience }) => {
    const found = besides[JSON.stringify([endpoint, audience])];
    return found === undefined
      ? Promise.reject(new Error(`${endpoint} does not answer ${audience ?? 'callers of no audience'}.`))
      : Promise.resolve(found);
  },
  listen: () => () => undefined,
});

/** The page's own data where it is a copy, else its server. */
export const openSource = (): Source => {
  const copy = document.getElementById('copy')?.textContent;
  return copy == null ? live : copied(JSON.parse(copy) as Copy);
};
