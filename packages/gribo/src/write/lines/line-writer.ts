import {
  becauseOf,
  type EngineName,
  type EngineOptions,
  engineFor,
  engineOf,
  type Generating,
} from '../../codegen/engine.js';
import type { GivenRow } from '../../declare/types/row-types.js';
import type { AnyBody, EnvelopeBody, ListBody, ShapeOf } from '../../declare/types/shape-types.js';
import type { SituationFor } from '../../declare/types/situation-types.js';
import type { ResolvedBody } from '../../plan/resolved.js';
import type { Situation } from '../../plan/situation.js';
import { keptSituations } from '../../resolve/kept-situations.js';
import { resolve, situationKey } from '../../resolve/resolve.js';
import { factsFor, type GivenFacts } from '../../values/facts-for.js';
import type { LoadedRows } from '../writer.js';
import { LinesWriter } from './lines-writer.js';
import { CsvRowLines, JsonRowLines, type RowLines } from './row-lines.js';

/** A row of a body, as it was loaded. */
type RowOf<B> =
  B extends ListBody<unknown, infer M, infer K>
    ? GivenRow<M, K>
    : B extends EnvelopeBody<unknown, infer M, infer K>
      ? GivenRow<M, K>
      : B extends ShapeOf<unknown, infer M, infer K>
        ? GivenRow<M, K>
        : never;

/** Writes rows line by line, in one situation. */
export interface LineWriter<B> {
  /** Which engine is at work. */
  readonly engine: EngineName;
  /** Why no code was made; null where it was. */
  readonly because: string | null;
  /** The body as it is in the writer's situation: plain frozen data. */
  readonly plan: ResolvedBody;
  /**
   * The lines in UTF-8; the bytes are the caller's own.
   *
   * @param given the facts about the caller that members and conditions use
   * @throws {RowError} where a row does not fit; {GriboError} `CALLER` where a fact is missing
   */
  bytes(rows: LoadedRows<RowOf<B>>, given?: GivenFacts): Uint8Array;
  /** The lines in UTF-8, in chunks, in constant memory. Where a row does not fit, the stream fails. */
  stream(
    rows: LoadedRows<RowOf<B>> | AsyncIterable<RowOf<B>>,
    given?: GivenFacts,
  ): ReadableStream<Uint8Array>;
}

/** How CSV is written. */
export interface CsvOptions extends EngineOptions {
  /**
   * Puts `'` before text that a spreadsheet would run as a formula: one that starts with = + - @. Decimals and whole
   * numbers stay as they are. Default: false.
   */
  readonly guardFormulas?: boolean;
}

interface KeptLines {
  readonly plan: ResolvedBody;
  readonly lines: LinesWriter;
}

const kept = keptSituations<KeptLines>();

const lineWriter = <B extends AnyBody>(
  body: B,
  situation: Situation,
  options: EngineOptions,
  name: string,
  make: (plan: ResolvedBody, generating: Generating) => RowLines,
): LineWriter<B> => {
  const { generating, because } = engineFor(options.engine);
  const { plan, lines } = kept(body.plan).get(`${name} ${generating} ${situationKey(situation)}`, () => {
    const settled = resolve(body, situation);
    return { plan: settled, lines: new LinesWriter(settled.content, make(settled, generating)) };
  });
  return Object.freeze({
    // Asked each time: code is made at the first use, and the platform may forbid it by then.
    get engine() {
      return engineOf(lines);
    },
    get because() {
      return becauseOf(lines, because);
    },
    plan,
    bytes: (rows: LoadedRows<RowOf<B>>, given?: GivenFacts) => lines.bytes(rows, factsFor(plan.facts, given)),
    stream: (rows: LoadedRows<RowOf<B>> | AsyncIterable<RowOf<B>>, given?: GivenFacts) =>
      lines.stream(rows, factsFor(plan.facts, given)),
  });
};

/** Makes the writer of a body's lines, in one situation. */
type MakeLineWriter<O> = <
  B extends AnyBody,
  const A extends string | null,
  const E extends string,
  const N extends string,
  const P extends string,
>(
  body: B,
  situation?: SituationFor<B, A, E, N, P>,
  options?: O,
) => LineWriter<B>;

/**
 * Writes rows as CSV (RFC 4180) with a header: one column for each member, dotted names for groups and to-one rows,
 * JSON text in one cell for to-many rows. An envelope is left away. Null is an empty cell, empty text is `""`.
 *
 * @param body a shape, `list(shape)`, `page(shape)` or one of these wrapped: its rows are written
 * @param situation which endpoint and audience it is for, and what was asked; nothing by default
 * @param options `guardFormulas`; `engine`, as for `writer`
 * @returns the writer; the code behind it is kept, so that it may be called for each request
 * @throws {RequestError} `REQUEST` where the caller asked for what is not there, or not for them
 * @throws {GriboError} `ENGINE` where `generated` is wanted and the platform forbids it
 * @example
 * const csv = csvLines(list(VesselCard));
 * new TextDecoder().decode(csv.bytes([])); // => 'id,name\r\n'
 */
export const csvLines: MakeLineWriter<CsvOptions> = (body, situation = {}, options = {}) => {
  const isGuarded = options.guardFormulas === true;
  return lineWriter(
    body,
    situation as Situation,
    options,
    isGuarded ? 'guarded' : 'csv',
    ({ content }, generating) => new CsvRowLines(content, generating, isGuarded),
  );
};

/**
 * Writes rows as JSON texts, one a line. An envelope is left away.
 *
 * @param body a shape, `list(shape)`, `page(shape)` or one of these wrapped: its rows are written
 * @param situation which endpoint and audience it is for, and what was asked; nothing by default
 * @param options `engine`, as for `writer`
 * @returns the writer; the code behind it is kept, so that it may be called for each request
 * @throws {RequestError} `REQUEST` where the caller asked for what is not there, or not for them
 * @throws {GriboError} `ENGINE` where `generated` is wanted and the platform forbids it
 * @example
 * jsonLines(list(VesselCard)).bytes([]).length; // => 0
 */
export const jsonLines: MakeLineWriter<EngineOptions> = (body, situation = {}, options = {}) =>
  lineWriter(
    body,
    situation as Situation,
    options,
    'json',
    ({ content }, generating) => new JsonRowLines(content, generating),
  );
