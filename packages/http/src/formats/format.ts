import {
  type AnyBody,
  GriboError,
  type IssueReason,
  type LineWriter,
  type Reader,
  type ReadResult,
  type Situation,
} from 'gribo';
import type { ResolvedBody } from 'gribo/kit';

/** A whole body as it is sent: text, which becomes UTF-8, or bytes. */
export type Content = string | Uint8Array;

/** Makes the writer of a body's lines: `csvLines`, `jsonLines`. */
export type MakeLines = (body: AnyBody, situation: Situation) => LineWriter<AnyBody>;

/** A whole response, to be put into a format. */
export interface OutgoingBody {
  /** The body in its situation, as data: its shape says which members there are. */
  readonly plan: ResolvedBody;
  /** The JSON-ready value: a row, rows, or an envelope with them. */
  value(): unknown;
  /** The JSON-ready rows alone, without the envelope. */
  rows(): readonly unknown[];
  /** The same as JSON in UTF-8, written without that value. */
  json(): Uint8Array;
  /** The rows alone, without the envelope, as lines in UTF-8. */
  lines(make: MakeLines): Uint8Array;
}

/** Rows that are sent while they are read. */
export interface OutgoingRows {
  readonly plan: ResolvedBody;
  /** The JSON-ready rows, in batches. */
  batches(): AsyncIterable<readonly unknown[]>;
  /** The whole list as JSON. */
  json(): ReadableStream<Uint8Array>;
  /** The rows as lines. */
  lines(make: MakeLines): ReadableStream<Uint8Array>;
}

/** A row of a list that is read, and its line where the format has lines. */
export interface RowRead {
  readonly result: ReadResult<object>;
  /** From 1. */
  readonly line?: number;
}

/** How bodies are sent and read: one object for each format. */
export interface Format {
  /** Its short name, for `?format=` and `gribo formats`. */
  readonly name: string;
  /** The media types that stand for it; the first one is sent. */
  readonly mediaTypes: readonly string[];
  /** More media types that it reads. */
  readonly alsoReads?: readonly string[];
  /** Whether the media type is text, so that it is sent with `charset=utf-8`. */
  readonly isText?: boolean;
  /** Whether it can only hold lists of rows. */
  readonly onlyLists?: boolean;
  /** Whether groups and to-one rows are dotted names in it. */
  readonly isFlat?: boolean;
  /** Puts a whole response into the format. Left out: the format is only read. */
  readonly write?: (sending: OutgoingBody) => Content;
  /** Loads what it writes with, at its first use: it is waited for before anything is done. Left out: nothing. */
  readonly load?: () => Promise<void>;
  /** Puts a list into it while its rows are read. Left out: long lists are not sent in it. */
  readonly stream?: (
    sending: OutgoingRows,
  ) => AsyncIterable<string | Uint8Array> | ReadableStream<Uint8Array>;
  /** Reads a request body. Left out: the format is only written. @throws {MalformedBody} where it is none */
  readonly read?: (
    body: Uint8Array,
    reader: Reader<object>,
  ) => ReadResult<object> | Promise<ReadResult<object>>;
  /**
   * Reads a list, row by row, while its bytes arrive. Left out: lists are not read in it.
   *
   * @throws {MalformedBody} where it is none
   */
  readonly readRows?: (body: AsyncIterable<Uint8Array>, reader: Reader<object>) => AsyncIterable<RowRead>;
  /** Whether its lists are read in constant memory, so that they may be as long as `limits.list`. */
  readonly readsLines?: boolean;
  /** Whether strings stand for numbers and true/false, because the format has nothing else. */
  readonly hasOnlyText?: boolean;
}

/**
 * A request body is not of the format that its media type says.
 *
 * @param reason why, as data: a short name, which `policies.say` puts into words; `items` and `levels` for a body of
 * more than `reader.limits` lets in, which callers are told with 413
 * @param pointer the member that it is about, as a JSON Pointer; left out: the whole body
 * @example
 * throw new MalformedBody({ name: 'yell', line: 3 });
 */
export class MalformedBody extends GriboError {
  static {
    this.prototype.name = 'MalformedBody';
  }
  readonly reason: IssueReason;

  constructor(reason: IssueReason, pointer = '') {
    super('MALFORMED', pointer, `the body is malformed: ${reason.name}`);
    this.reason = reason;
  }
}

/** The text of UTF-8 bytes. @throws {MalformedBody} where they are none */
export const textOf = (body: Uint8Array): string => {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(body);
  } catch {
    throw new MalformedBody({ name: 'utf8' });
  }
};
