import {
  type LoadPlan,
  loadPlan,
  type Situation,
  type Store,
  storeFor,
  type Weight,
  weigh,
  writer,
} from 'gribo';
import type { SendingEndpoint } from 'gribo/kit';
import { contentShape, isAboutMany } from 'gribo/kit';
import { askingAs } from '../asked/caller.js';
import { planned } from '../asked/planned.js';
import { storedRow } from '../asked/stored-row.js';
import type { GriboConfig } from '../config/config.js';
import { plainJson } from '../screen/plain-json.js';
import { locate } from '../show/locate.js';
import { type Mark, type Pair, pairsOf } from '../show/pairs.js';
import { pathText, SENT, STORED, valueAt, valueText } from '../show/value-text.js';
import { widen } from '../show/widen.js';
import { keyOf, labelOf } from './row-label.js';

/** What was asked of an endpoint. */
export interface BesideQuery {
  readonly endpoint: string;
  /** Null: callers of no audience. */
  readonly audience: string | null;
  /** A caller that the configuration names; null: the first one of the audience. */
  readonly caller: string | null;
  readonly asked: readonly string[];
  /** The row, which need not be one of those to choose from; null: the first. */
  readonly key: string | null;
}

/** A stored value or a member, with its value in a few words. */
export interface BesideItem {
  readonly path: string;
  readonly text: string;
  /** The label of the seal under which it stays inside. */
  readonly seal: string | null;
}

/** A stored row and what is sent of it. */
export interface BesideData {
  /** The row that is shown; null where there is none. */
  readonly key: string | null;
  readonly keys: readonly { readonly key: string; readonly label: string }[];
  readonly stored: readonly BesideItem[];
  readonly sent: readonly BesideItem[];
  /** Which stored value became which member: their places in the two lists, and what became of it. */
  readonly links: readonly { readonly from: number; readonly to: number; readonly mark: Mark }[];
  readonly storedBytes: number;
  readonly sentBytes: number;
  readonly weight: Weight | null;
  /** What is sent of the row, as JSON. */
  readonly json: string;
  /** The path that asks the API for it; null where that would change something. */
  readonly request: string | null;
  /** Whether the endpoint sends many rows. */
  readonly isList: boolean;
}

/** How many rows there are to choose from. */
const ROWS = 60;

type Row = Readonly<Record<string, unknown>>;

/** What a load plan names of a row: rows of some stores find what is behind their links when they are asked. */
const loaded = (row: unknown, plan: LoadPlan): unknown => {
  if (Array.isArray(row)) return row.map((one) => loaded(one, plan));
  if (typeof row !== 'object' || row === null) return row;
  const columns = plan.columns.map(({ name }) => [name, (row as Row)[name]]);
  const links = plan.links.map(({ link, plan: inner }) => [
    link.name,
    loaded((row as Row)[link.name], inner),
  ]);
  return Object.fromEntries([...columns, ...links]);
};

const bytesOf = (value: unknown): number => Buffer.byteLength(JSON.stringify(value, plainJson) ?? '');

const EMPTY: BesideData = {
  key: null,
  keys: [],
  stored: [],
  sent: [],
  links: [],
  storedBytes: 0,
  sentBytes: 0,
  weight: null,
  json: '',
  request: null,
  isList: false,
};

/** Gathers the two lists, and what leads from one to the other. */
class BesideLists {
  readonly stored: BesideItem[] = [];
  readonly sent: BesideItem[] = [];
  readonly links: BesideData['links'][number][] = [];
  readonly #row: unknown;
  readonly #made: unknown;

  constructor(pairs: readonly Pair[], row: unknown, made: unknown) {
    this.#row = row;
    this.#made = made;
    for (const pair of pairs) this.#add(pair);
  }

  #add({ from, to, mark, seal }: Pair): void {
    const isSent = to !== null && valueAt(this.#made, to) !== undefined;
    const isStored = from !== null && valueAt(this.#row, from) !== undefined;
    const left = isStored
      ? this.#stored(pathText(from), seal !== null && mark !== 'unsealed' ? seal : null, from)
      : -1;
    if (!isSent) return;
    this.sent.push({ path: pathText(to), text: valueText(valueAt(this.#made, to), SENT), seal: null });
    if (left !== -1) this.links.push({ from: left, to: this.sent.length - 1, mark });
  }

  #stored(path: string, seal: string | null, from: readonly (string | number)[]): number {
    const known = this.stored.findIndex((item) => item.path === path);
    if (known !== -1) return known;
    const text = seal === null ? valueText(valueAt(this.#row, from), STORED) : `sealed: ${seal}`;
    return this.stored.push({ path, text, seal }) - 1;
  }
}

/** How many rows of a page are asked for. */
const SHOWN = 5;

/** The path that asks for a row, or for the list that it is in. */
const requestFor = (endpoint: SendingEndpoint, row: object): string | null => {
  const { method, path, under, returns } = endpoint;
  if (method !== 'GET') return null;
  const filled = path.replaceAll(/\{([^}]*)\}/g, (_whole, name: string) => {
    const column = under?.link.from[under.parameters.indexOf(name)] ?? name;
    return encodeURIComponent(String((row as Row)[column]));
  });
  return returns.kind === 'envelope' && returns.page !== null ? `${filled}?size=${SHOWN}` : filled;
};

/**
 * A stored row beside what an endpoint sends of it, for one audience.
 *
 * @param endpoint one that sends something
 */
export const besideData = async (
  opened: Store,
  config: GriboConfig,
  endpoint: SendingEndpoint,
  { audience: named, caller, asked, key }: BesideQuery,
): Promise<BesideData> => {
  const whom = named === null ? {} : { audience: named };
  const asking = askingAs(config, caller === null ? whom : { as: caller });
  const { audience } = asking.caller;
  const store = storeFor(opened, config.api, asking.caller, asking.now);
  const content = planned(contentShape(endpoint.returns));
  const situation: Situation = { endpoint: endpoint.name, asked, audience };
  const { entity } = endpoint;
  const plan = widen(loadPlan(content, situation), entity);
  const rows = await store.list(plan, { limit: ROWS });
  const row = key === null ? rows[0] : await storedRow(store, plan, entity, key);
  if (row === undefined) return EMPTY;
  const known = rows.some((one) => keyOf(entity, one) === keyOf(entity, row));
  const write = writer(content, situation);
  const sent: unknown = write.object(row as never, asking);
  const pairs = locate(pairsOf(write.plan.content, entity), row, sent);
  const { stored, sent: members, links } = new BesideLists(pairs, row, sent);
  return {
    key: keyOf(entity, row),
    keys: (known ? rows : [row, ...rows]).map((one) => ({
      key: keyOf(entity, one),
      label: labelOf(entity, one),
    })),
    stored,
    sent: members,
    links,
    storedBytes: bytesOf(loaded(row, plan)),
    sentBytes: bytesOf(sent),
    weight: weigh(content, row as never, situation, asking),
    json: JSON.stringify(sent),
    request: requestFor(endpoint, row),
    isList: isAboutMany(endpoint.returns),
  };
};
