import type { SqlStore, Statement } from '@gribo/sql';
import {
  type EngineOptions,
  type EnvelopeData,
  type GivenFacts,
  type LoadPlan,
  loadPlan,
  type RowsOf,
  type Situation,
  type Store,
  storeFor,
  type Weight,
  type Writer,
  wantedPage,
  weigh,
  writer,
} from 'gribo';
import type { SendingEndpoint } from 'gribo/kit';
import {
  type BodyPlan,
  comparison,
  contentShape,
  type EndpointPlan,
  isAboutMany,
  type PageSettings,
  type SortKey,
  type StoreCondition,
  settledQuery,
} from 'gribo/kit';
import compact from 'json-stringify-pretty-compact';
import type { EditionOptions } from '../asked/asked-edition.js';
import { askingAs } from '../asked/caller.js';
import { parseKey } from '../asked/parse-key.js';
import { type PlannedBody, planned } from '../asked/planned.js';
import { sendingEndpoint } from '../asked/sending.js';
import { type SituationOptions, situationFor } from '../asked/situation.js';
import { storedRow } from '../asked/stored-row.js';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { plainJson } from '../screen/plain-json.js';
import { printJson } from '../screen/print-json.js';
import type { Screen } from '../screen/screen.js';
import { besideLines } from './beside.js';
import { type FileShown, fileShown, fileWords } from './file-shown.js';
import { weighLines } from './weigh-lines.js';
import { widen } from './widen.js';
import { wrapSql } from './wrap-sql.js';

export interface ShowOptions extends SituationOptions, EditionOptions {
  readonly id?: string;
  readonly under?: string;
  readonly limit: number;
  readonly json?: boolean;
  readonly beside?: boolean;
  readonly sql?: boolean;
  readonly weigh?: boolean;
  readonly engine: NonNullable<EngineOptions['engine']>;
}

/** Any body's writer: what it writes is not known before it is run. */
type LooseWriter = Pick<Writer<never>, 'engine' | 'plan'> & {
  object(data: unknown): unknown;
  json(data: unknown): string;
};

/** A writer that knows who asks. */
const writerOf = (
  body: BodyPlan,
  situation: Situation,
  { engine }: Pick<ShowOptions, 'engine'>,
  given: GivenFacts,
): LooseWriter => {
  const write = writer(planned(body), situation, { engine });
  // What is written was loaded by the same plan.
  return {
    plan: write.plan,
    engine: write.engine,
    object: (data) => write.object(data as never, given),
    json: (data) => write.json(data as never, given),
  };
};

/** The columns of a child that hold its parent's key, with the key that was given. */
const whereOf = (endpoint: EndpointPlan, under: string | undefined): readonly StoreCondition[] => {
  if (endpoint.under === null) {
    if (under === undefined) return [];
    throw new Mistake(`${endpoint.name} is no child collection: leave out --under.`);
  }
  const { link } = endpoint.under;
  if (under === undefined) {
    throw new Mistake(`${endpoint.name} is under a ${link.target.name}: add --under and its key.`);
  }
  const values = parseKey(link.target, under, link.to);
  return link.from.flatMap((name, i) => {
    const column = endpoint.entity.columns.find((candidate) => candidate.name === name);
    return column === undefined ? [] : [comparison(column, 'equals', values[i])];
  });
};

/** A page has no more rows than it declares. */
const checkSize = (returns: BodyPlan, { id, limit }: ShowOptions): void => {
  if (returns.kind !== 'envelope' || returns.page === null || id !== undefined) return;
  wantedPage({ plan: returns } as Parameters<typeof wantedPage>[0], { size: String(limit) });
};

/** The rows that the endpoint would be asked for: one by its key, or the first few. */
const rowsFor = async (
  store: Store,
  endpoint: SendingEndpoint,
  plan: LoadPlan,
  sort: readonly SortKey[],
  options: ShowOptions,
): Promise<readonly object[]> => {
  if (options.id === undefined) {
    const limit = isAboutMany(endpoint.returns) ? options.limit : 1;
    return store.list(plan, { limit, sort, where: whereOf(endpoint, options.under) });
  }
  return [await storedRow(store, plan, endpoint.entity, options.id)];
};

/** What is known about the first page of so many rows. */
const pageInfo = (settings: PageSettings | null, size: number, total: number): EnvelopeData => {
  const pages = Math.max(1, Math.ceil(total / size));
  const more = total > size ? '(the cursor of the next page)' : null;
  return settings?.by === 'cursor'
    ? { size, total, number: null, pages: null, next: more, previous: null }
    : { number: 1, size, total, pages, next: null, previous: null };
};

/** What the writer of a body takes: a row, rows, or the data of an envelope. */
const dataFor = async (
  store: Store,
  endpoint: SendingEndpoint,
  rows: readonly object[],
  options: ShowOptions,
): Promise<unknown> => {
  const { returns } = endpoint;
  if (returns.kind === 'shape') return rows[0];
  if (returns.kind === 'list') return rows;
  if (returns.content.kind === 'shape') return { item: rows[0] };
  const total =
    options.id === undefined
      ? await store.count(endpoint.entity.name, whereOf(endpoint, options.under))
      : rows.length;
  return { items: rows, ...pageInfo(returns.page, options.limit, total) };
};

const byteSize = (text: string): string => Buffer.byteLength(text).toLocaleString('en');

/** Each stored row beside what is sent of it; an envelope around them is left away. */
const showBeside = (
  screen: Screen,
  endpoint: SendingEndpoint,
  write: LooseWriter,
  rows: readonly object[],
): void => {
  const { colours } = screen;
  for (const row of rows) {
    const sent = write.object(row);
    for (const line of besideLines(screen, endpoint.entity, write.plan.content, row, sent))
      screen.print(line);
    const stored = byteSize(JSON.stringify(row, plainJson));
    const written = byteSize(JSON.stringify(sent));
    screen.print(colours.dim(`${stored} bytes as stored, with all that was loaded; ${written} bytes sent\n`));
  }
};

/** The values of a key of several columns, as they are given. */
const partsOf = (key: string | undefined, many: number): readonly (string | undefined)[] =>
  many === 1 ? [key] : (key ?? '').split(',');

const heading = (endpoint: EndpointPlan, options: ShowOptions): string => {
  const filled = endpoint.path.replaceAll(/\{([^}]*)\}/g, (whole, name) => {
    const place = endpoint.under?.parameters.indexOf(name) ?? -1;
    if (place >= 0) return partsOf(options.under, endpoint.under?.parameters.length ?? 1)[place] ?? whole;
    return endpoint.entity.key.length === 1 && name === endpoint.entity.key[0]
      ? (options.id ?? whole)
      : whole;
  });
  const query = [
    options.with === undefined ? '' : `with=${options.with.join(',')}`,
    options.fields === undefined ? '' : `fields=${options.fields.join(',')}`,
  ].filter((part) => part !== '');
  const route = `${endpoint.method} ${filled}${query.length === 0 ? '' : `?${query.join('&')}`}`;
  const edition = options.edition === undefined ? '' : `  in ${options.edition}`;
  if (options.as !== undefined) return `${route}  as ${options.as}${edition}`;
  return `${route}${options.audience === undefined ? '' : `  for ${options.audience}`}${edition}`;
};

/** The statements that a store runs from now on. @throws {Mistake} where it runs none */
const listening = (store: Store): readonly Statement[] => {
  if (!('listen' in store) || typeof store.listen !== 'function') {
    throw new Mistake('The store runs no SQL: leave out --sql.');
  }
  const statements: Statement[] = [];
  (store as SqlStore).listen((statement) => statements.push(statement));
  return statements;
};

const parameterText = (value: unknown): string => {
  const text = JSON.stringify(value, plainJson);
  return text.length > 60 ? `${text.slice(0, 60)}…` : text;
};

const printStatements = (screen: Screen, statements: readonly Statement[]): void => {
  const { colours } = screen;
  for (const { sql, parameters, milliseconds } of statements) {
    screen.print(`\n${colours.cyan(wrapSql(sql, screen.width))}`);
    const given = parameters.length === 0 ? '' : `with ${parameters.map(parameterText).join(', ')}; `;
    screen.print(colours.dim(`${given}${milliseconds.toFixed(1)} ms`));
  }
};

/** What `gribo show --weigh --json` prints: the bytes of a response, member by member. */
export type WeighJson = Weight;

/** What `gribo show --json` prints of an endpoint that sends files. */
export type FileJson = FileShown;

/** Shows what an endpoint sends for stored rows. */
export const show = async (
  config: GriboConfig,
  openStore: () => Promise<Store>,
  name: string,
  options: ShowOptions,
  screen: Screen,
): Promise<void> => {
  const endpoint = sendingEndpoint(config, name);
  const situation = situationFor(config, endpoint, options);
  const asking = askingAs(config, options);
  const write = writerOf(endpoint.returns, situation, options, asking);
  if (options.id !== undefined) parseKey(endpoint.entity, options.id);
  whereOf(endpoint, options.under);
  checkSize(endpoint.returns, options);
  const needed = loadPlan(planned(endpoint.returns), situation);
  const plan = options.beside === true ? widen(needed, endpoint.entity) : needed;
  const opened = await openStore();
  const statements = options.sql === true ? listening(opened) : [];
  const store = storeFor(opened, config.api, asking.caller, asking.now);
  const rows = await rowsFor(
    store,
    endpoint,
    plan,
    settledQuery(endpoint, asking.caller.audience).order,
    options,
  );
  if (rows.length === 0 && !isAboutMany(endpoint.returns)) {
    throw new Mistake(`There is no ${endpoint.entity.name} stored yet.`);
  }
  const data = await dataFor(store, endpoint, rows, options);
  const weight =
    options.weigh === true
      ? weigh(planned(endpoint.returns), data as RowsOf<PlannedBody>, situation, asking)
      : null;
  if (options.json === true) {
    if (endpoint.sends === 'file') return printJson<FileJson>(screen, fileShown(write.object(data)));
    return weight === null ? screen.print(write.json(data)) : printJson<WeighJson>(screen, weight);
  }
  const { colours } = screen;
  screen.print(`${colours.bold(endpoint.name)}  ${heading(endpoint, options)}\n`);
  if (options.beside === true) {
    const content = writerOf(contentShape(endpoint.returns), situation, { engine: 'auto' }, asking);
    showBeside(screen, endpoint, content, rows);
    return printStatements(screen, statements);
  }
  if (endpoint.sends === 'file') {
    screen.print(fileWords(fileShown(write.object(data))));
    return printStatements(screen, statements);
  }
  if (weight !== null) {
    for (const line of weighLines(weight, screen)) screen.print(line);
  } else screen.print(compact(write.object(data), { maxLength: screen.width }));
  screen.print(colours.dim(`\n${byteSize(write.json(data))} bytes as sent, by the ${write.engine} engine`));
  printStatements(screen, statements);
};
