import type {
  AnyApi,
  AnyBody,
  AudienceIn,
  BodyOf,
  Bound,
  CallerIn,
  ColumnValues,
  EditionIn,
  EntityAt,
  EntityName,
  FilesOf,
  Key,
  LoadedRow,
  ModelAt,
  ModelTypes,
  NameIn,
  ParametersOf,
  ProblemsOf,
  QueryOf,
  RequestOf,
  RowFor,
  RowsWhere,
  SortBy,
  Store,
  StreamedRowsOf,
} from 'gribo';
import type { Problem } from '../problems/problem.js';
import type { TakenFile } from '../request/read-files.js';

/** Which rows of an entity to load, by values of their columns. */
export interface LoadOptions<M = unknown, K = unknown> {
  /** Columns by property name, and the values that they have; or conditions, `rowsWhere(…)`. */
  readonly where?: ColumnValues<M, K> | RowsWhere<K>;
  /** Columns to sort by: `'name'`, `'eta desc'`. */
  readonly sort?: readonly SortBy<M, K>[];
  readonly limit?: number;
  readonly offset?: number;
}

/** What a handler adds to what an operation does. */
export interface ProceedOptions<M = unknown, K = unknown> {
  /**
   * What must hold for the rows besides: of a list, those that are in it; of a single row, for it to be there. Columns by property
   * name with their values, or conditions, `rowsWhere(…)`.
   */
  readonly where?: ColumnValues<M, K> | RowsWhere<K>;
}

export interface TransactionOptions {
  /** Takes everything back once it is done: what the work returns says what would have come of it. Default: false. */
  readonly dryRun?: boolean;
  /**
   * It changes nothing, and what it reads need not be so any more when it ends: it is in nobody's way, and is not run again. Default: false.
   */
  readonly onlyReads?: boolean;
}

/** Does what would be done without the handler: with another change where one is given, and one is taken. */
type Proceed<Takes, M, K, R> = [Takes] extends [null]
  ? (options?: ProceedOptions<M, K>) => Promise<R>
  : (change?: GivenTo<Takes, LoadedRow<M, K>>, options?: ProceedOptions<M, K>) => Promise<R>;

/** Loads whole rows of one entity: every column, and no links. */
export interface StoredRows<M extends ModelTypes, K extends EntityName<M>> {
  /** The row with this key; null where there is none that the caller sees. */
  row(...key: Key): Promise<RowFor<Bound<M, K>> | null>;
  rows(options?: LoadOptions<M, K>): Promise<readonly RowFor<Bound<M, K>>[]>;
}

/** Loads rows with exactly the columns and links that the endpoint's body needs. */
export interface Loader<M = unknown, K = unknown> {
  /** The row with this key; null where there is none. */
  row(...key: Key): Promise<LoadedRow<M, K> | null>;
  rows(options?: LoadOptions<M, K>): Promise<readonly LoadedRow<M, K>[]>;
}

/** The same, within its endpoint: under the parent that the path names, and such as the query looks for. */
export interface Load<M = unknown, K = unknown> extends Loader<M, K> {
  /** Rows of any parent, whatever the query looks for: `gribo check` lists who says so. */
  readonly anywhere: Loader<M, K>;
  /** Whole rows instead, of any entity: what a command has to know. */
  from<N extends ModelTypes, E extends EntityName<N>>(over: Bound<N, E>): StoredRows<N, E>;
}

/** What a handler makes the response from: what the body is written from; null: there is nothing such (404). */
export type HandlerResult<P extends AnyApi, Name extends NameIn<P>> =
  // biome-ignore lint/suspicious/noConfusingVoidType: a handler of an endpoint without a body may return nothing
  BodyOf<P, Name> extends infer B ? (B extends AnyBody ? StreamedRowsOf<B> | null : void | null) : never;

/** A list is read while it arrives: a handler is given its rows as they come. */
type TakenBy<R> = R extends readonly (infer One)[] ? AsyncIterable<One> : R;

/** Instead of a list, any rows will do; and with what the body may set, whatever else the server sets. */
type GivenTo<R, Row> = R extends readonly (infer One)[]
  ? Iterable<One & Row> | AsyncIterable<One & Row>
  : R & Row;

/** The files of an endpoint as they came: those that may be left out, maybe null. */
export type FilesTaken<F> = F extends null
  ? null
  : { readonly [N in keyof F]: F[N] extends true ? TakenFile | null : TakenFile };

/** What is so this time of a problem; what else its details have, where it has more. */
type ProblemCase<Members> = { readonly detail?: string; readonly cause?: unknown } & (Members extends null
  ? unknown
  : { readonly members: Members });

/** Makes a problem that is declared, by its code. */
export type MakeProblem<Problems> = <C extends keyof Problems & string>(
  code: C,
  ...[details]: Problems[C] extends null ? [ProblemCase<null>?] : [ProblemCase<Problems[C]>]
) => Problem;

/** A whole row of an entity; null where there is no entity. */
type NamedRow<M, K> = M extends ModelTypes
  ? K extends EntityName<M>
    ? RowFor<Bound<M, K>> | null
    : null
  : null;

/** What a handler is given. */
export interface HandlerContext<P extends AnyApi, Name extends NameIn<P>> {
  readonly request: Request;
  /** Who asks: its audience, null where it is nobody in particular, and the facts that the API declares. */
  readonly caller: Omit<CallerIn<P>, 'audience'> & { readonly audience: AudienceIn<P> | null };
  /** The edition that it is asked in; null where the API has none. */
  readonly edition: EditionIn<P> | null;
  /** The values of the path's parameters. */
  readonly parameters: ParametersOf<P, Name>;
  /** What the request's body sets, read and checked: of a list, row by row, once. Null where the endpoint takes none. */
  readonly input: TakenBy<RequestOf<P, Name>>;
  /** The files that came, by name; null where the endpoint takes none. */
  readonly files: FilesTaken<FilesOf<P, Name>>;
  /** What the query is told, read and checked; null where the endpoint is told nothing. */
  readonly query: QueryOf<P, Name>;
  /** Makes one of the problems that the endpoint declares, to be thrown. */
  readonly problem: MakeProblem<ProblemsOf<P, Name>>;
  /** What the caller looks for: the values of the filters that its query has, by their names. */
  readonly filters: Readonly<Record<string, unknown>>;
  /** Of an endpoint of one's own: the row that its path names, as it is stored; null where it names none, or makes it. */
  readonly row: NamedRow<ModelAt<P, Name>, EntityAt<P, Name>>;
  /** The key of the row that the path names; null where it names none. */
  readonly key: Key | null;
  /** The rows, as this caller may see and change them. */
  readonly store: Store;
  readonly load: Load<ModelAt<P, Name>, EntityAt<P, Name>>;
  /**
   * Does work in one transaction: all of it is stored, or nothing where it throws. Until it ends, whatever the handler asks of
   * `store`, `load` and `proceed` is a part of it. What it reads is still so when it ends: of many at once that would break that, one
   * gets through, and the others are run again, from the start of the work.
   *
   * @returns what the work returns
   */
  readonly transaction: <T>(work: (store: Store) => Promise<T>, options?: TransactionOptions) => Promise<T>;
  /** The moment of the request: what conditions and stamps take for now. */
  readonly now: Date;
  /** Aborted where the time for an answer is up: what is not done yet should not be done any more. */
  readonly signal: AbortSignal;
  /** Does what would be done without the handler: with another change where one is given and taken, and with conditions of its own. */
  readonly proceed: Proceed<RequestOf<P, Name>, ModelAt<P, Name>, EntityAt<P, Name>, HandlerResult<P, Name>>;
}

/**
 * The function that answers one endpoint.
 * @example
 * const read: Handler<typeof harbour, 'vessels.read'> = ({ load, key }) => load.row(...(key ?? []));
 */
export type Handler<P extends AnyApi, Name extends NameIn<P>> = (
  context: HandlerContext<P, Name>,
) => Promise<HandlerResult<P, Name>> | HandlerResult<P, Name>;

/** Functions that replace what an operation does, or add to it, by the names of their endpoints. */
export type Handlers<P extends AnyApi> = { readonly [Name in NameIn<P>]?: Handler<P, Name> };

/** A handler without its types. */
export type AnyHandler = (context: never) => unknown;
