import type { AnyHandler, EditionPlace, Format, FormatOptions } from '@gribo/http';
import type {
  Accepted,
  AnyApi,
  BoundEntity,
  CallerGiven,
  FunctionModules,
  NameStyle,
  OpenApiOptions,
  SampleOptions,
  Store,
} from 'gribo';

/** What `gribo.config.ts` exports as its default. */
export interface GriboConfig {
  readonly api: AnyApi;
  /** The store, or a function that opens it; it is called only when rows are needed. */
  readonly store: Store | (() => Store | Promise<Store>);
  /** What endpoints do that do not follow from their declaration: the `handlers` of `serve`. */
  readonly handlers?: Readonly<Record<string, AnyHandler | undefined>>;
  /** Where callers name the edition that they ask in, as `serve` takes it. */
  readonly editions?: EditionPlace;
  /** The edition of those who name none, as `serve` takes it. */
  readonly unnamed?: string;
  /** The folder of the contracts that `gribo publish` writes, from the configuration's folder. Default: `contracts`. */
  readonly published?: string;
  /** The formats that the API is served in, the preferred one first. Default: those of `@gribo/http`. */
  readonly formats?: readonly Format[];
  /** The model, for `gribo draft`, `gribo check` and sample rows. */
  readonly model?: Readonly<Record<string, BoundEntity>>;
  /** What else `gribo play` has at hand, by name: the model, shapes. */
  readonly names?: Readonly<Record<string, unknown>>;
  /** What sample rows are made of, for examples and `gribo serve --samples`. */
  readonly samples?: SampleOptions;
  /** Who asks, for `gribo serve`: `{ audience }` and facts. Default: the audience that its `x-audience` header names. */
  readonly caller?: (request: Request) => CallerGiven | null | Promise<CallerGiven | null>;
  /** The clock: `now` in conditions, stamps, which editions have ended, the times of a recording. Default: the program's. */
  readonly now?: () => Date;
  /** Callers to choose from by name, each with its `audience` and facts: `--as agent7`, and the header `x-caller`. */
  readonly callers?: Readonly<Record<string, CallerGiven>>;
  /** Seconds that responses may be kept, by endpoint, as `serve` takes them. */
  readonly cache?: Readonly<Record<string, number>>;
  /** How request bodies are read, as `serve` takes it. */
  readonly policies?: FormatOptions['policies'];
  /** The folder that `gribo build` writes to, from the configuration's folder. Default: `generated`. */
  readonly out?: string;
  /**
   * The modules whose functions members call, for stand-alone serializers, by the paths that they are
   * imported from: a package's name, or a path from the configuration's folder.
   */
  readonly functions?: FunctionModules;
  /** What the OpenAPI document says besides. */
  readonly openApi?: Pick<
    OpenApiOptions,
    'specification' | 'formatParameter' | 'info' | 'servers' | 'security' | 'securitySchemes'
  >;
  /** How names are written, for `gribo check`. Default: `camelCase`. */
  readonly style?: NameStyle;
  /** Findings of `gribo check` that are all right, and why. */
  readonly accepted?: readonly Accepted[];
}
