import type { ReaderPolicies, SayIssue } from 'gribo';
import { cbor } from '../formats/cbor.js';
import { csv } from '../formats/csv.js';
import type { Format } from '../formats/format.js';
import { json } from '../formats/json.js';
import { ndjson } from '../formats/ndjson.js';
import { xml } from '../formats/xml.js';
import type { Log } from '../problems/failed-response.js';
import { sayReason } from '../problems/say-reason.js';

/** How much is taken and how long is waited. Everything is bounded. */
export interface Limits {
  /** The most bytes of a request body, and of one row of a list. Default: 1,048,576. */
  readonly body: number;
  /** The most bytes of a list that is read row by row, such as CSV. Default: 104,857,600. */
  readonly list: number;
  /** The most characters of a URL. Default: 8,192. */
  readonly url: number;
  /** Milliseconds within which a request body must be there; of a list, each `body` bytes of it. Default: 10,000. */
  readonly receiving: number;
  /** Milliseconds that the store and handlers may take, each further row of a list, and each 1,000 rows that are taken. Default: 30,000. */
  readonly answering: number;
  /**
   * Milliseconds that a change whose time is up has to end in, so that its caller can be told how it ended. Default: 2,000.
   */
  readonly ending: number;
  /** Milliseconds that the reader of a streamed list may stand still. Default: 30,000. */
  readonly sending: number;
  /** The most rows of a list that is sent as a whole: in an envelope, or in a format that cannot stream. Default: 100,000. */
  readonly rows: number;
}

const LIMITS: Limits = {
  body: 1_048_576,
  list: 104_857_600,
  url: 8192,
  receiving: 10_000,
  answering: 30_000,
  ending: 2000,
  sending: 30_000,
  rows: 100_000,
};

/** What is said where no logger is given. */
const standardError: Log = {
  error: (about, message) => console.error(message, about),
};

/** How bodies are negotiated, read and bounded; the same for `serve`, `respond` and `receive`. */
export interface FormatOptions {
  /** The formats, the preferred one first. Default: JSON, CSV, XML, CBOR and NDJSON; `form` is read where it is named. */
  readonly formats?: readonly Format[];
  /**
   * Where nothing that the caller accepts is there: `refuse` (406), `mirror` (the format of the
   * request's own body, if it can be written), or `first` (the preferred one). Default: `refuse`.
   */
  readonly unacceptable?: 'refuse' | 'mirror' | 'first';
  /** Whether `?format=csv` stands for an `Accept` header. Default: false. */
  readonly formatParameter?: boolean;
  /**
   * Entity tags in `If-Match` that a proxy has weakened, as some do where they compress: `refuse` them, as HTTP asks, or
   * `match` them with what they were before. Default: `refuse`.
   */
  readonly weakenedTags?: 'refuse' | 'match';
  readonly limits?: Partial<Limits>;
  /** How request bodies are read. `bytes` is `limits.body`. */
  readonly policies?: Omit<ReaderPolicies, 'bytes' | 'text'>;
  readonly log?: Log;
  /**
   * Whether a failure of the service says to its caller what it is and where: `tell`, for development, or `hide`; the log has it either
   * way. Default: `hide`.
   */
  readonly failures?: 'hide' | 'tell';
}

/** The options with their defaults. */
export interface Settings {
  readonly formats: readonly Format[];
  readonly unacceptable: 'refuse' | 'mirror' | 'first';
  readonly formatParameter: boolean;
  readonly weakenedTags: 'refuse' | 'match';
  readonly limits: Limits;
  readonly policies: ReaderPolicies;
  /** Puts issues into words: those of bodies, and of changes that do not fit what is stored. */
  readonly say: SayIssue;
  readonly log: Log;
  readonly failures: 'hide' | 'tell';
}

/**
 * The formats that are there unless others are named. Forms are not among them: any page may send one without
 * asking first.
 */
export const standardFormats: readonly Format[] = Object.freeze([json, csv(), xml(), cbor, ndjson]);

/** The headers by which callers are told apart, unless others are named. */
const DECIDED_BY: readonly string[] = Object.freeze(['Authorization', 'Cookie']);

/** The headers that an audience follows from; null where none is decided. */
export const decidedByOf = (
  headers: readonly string[] | undefined,
  isDecided: boolean,
): readonly string[] | null => (isDecided ? (headers ?? DECIDED_BY) : null);

export const settingsOf = (options: FormatOptions): Settings => ({
  formats: options.formats ?? standardFormats,
  unacceptable: options.unacceptable ?? 'refuse',
  formatParameter: options.formatParameter ?? false,
  weakenedTags: options.weakenedTags ?? 'refuse',
  limits: { ...LIMITS, ...options.limits },
  policies: options.policies ?? {},
  say: options.policies?.say ?? sayReason,
  log: options.log ?? standardError,
  failures: options.failures ?? 'hide',
});
