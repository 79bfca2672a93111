import type {
  AnyBody,
  Api,
  BodyOf,
  EndpointNames,
  Key,
  LoadedRow,
  LoadedRows,
  ParametersOf,
  RequestOf,
  Store,
  StreamDataOf,
} from 'gribo';

/** Which rows to load, by values of their columns. */
export interface LoadOptions {
  /** Columns by property name, and the values that they have. */
  readonly where?: Readonly<Record<string, unknown>>;
  /** Columns to sort by: `'name'`, `'eta desc'`. */
  readonly sort?: readonly string[];
  readonly limit?: number;
  readonly offset?: number;
}

/** Loads rows with exactly the columns and links that the endpoint's body needs. */
export interface Load {
  /** The row with this key; null where there is none. */
  row(...key: Key): Promise<LoadedRow | null>;
  rows(options?: LoadOptions): Promise<LoadedRows>;
}

/** What a handler makes the response from: what the body is written from; null: there is nothing such (404). */
export type HandlerResult<P, Name extends string> =
  // biome-ignore lint/suspicious/noConfusingVoidType: a handler of an endpoint without a body returns nothing
  BodyOf<P, Name> extends infer B ? (B extends AnyBody ? StreamDataOf<B> | null : void) : never;

/** A list is read while it arrives: a handler is given its rows as they come. */
type TakenBy<R> = R extends readonly (infer One)[] ? AsyncIterable<One> : R;

/** Instead of a list, any rows will do. */
type GivenTo<R> = R extends readonly (infer One)[] ? Iterable<One> | AsyncIterable<One> : R;

/** What a handler is given. */
export interface HandlerContext<P, Name extends string> {
  readonly request: Request;
  /** Whom the response is for; null: nobody in particular. */
  readonly audience: string | null;
  /** The values of the path's parameters. */
  readonly parameters: ParametersOf<P, Name>;
  /** What the request's body sets, read and checked: of a list, row by row, once. Null where the endpoint takes none. */
  readonly input: TakenBy<RequestOf<P, Name>>;
  /** The key of the row that the path names; null where it names none. */
  readonly key: Key | null;
  readonly store: Store;
  readonly load: Load;
  /** Aborted where the time for an answer is up: what is not done yet should not be done any more. */
  readonly signal: AbortSignal;
  /** Does what would be done without the handler, with another change where one is given. */
  readonly proceed: (change?: GivenTo<RequestOf<P, Name>>) => Promise<HandlerResult<P, Name>>;
}

/** Functions that replace what an operation does, or add to it, by the names of their endpoints. */
export type Handlers<P> =
  P extends Api<infer E, string>
    ? {
        readonly [Name in EndpointNames<E>]?: (
          context: HandlerContext<P, Name>,
        ) => Promise<HandlerResult<P, Name>> | HandlerResult<P, Name>;
      }
    : never;

/** A handler without its types. */
export type AnyHandler = (context: HandlerContext<unknown, string>) => unknown;
