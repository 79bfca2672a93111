import {
  becauseOf,
  type EngineName,
  type EngineOptions,
  engineFor,
  engineOf,
  type Generating,
} from '../codegen/engine.js';
import type { GivenRow } from '../declare/types/row-types.js';
import type { AnyBody, EnvelopeBody, ListBody, Output, ShapeOf } from '../declare/types/shape-types.js';
import type { SituationFor } from '../declare/types/situation-types.js';
import type { BodyPlan } from '../plan/declared.js';
import type { ResolvedBody } from '../plan/resolved.js';
import type { Situation } from '../plan/situation.js';
import { keptSituations } from '../resolve/kept-situations.js';
import { resolve, situationKey } from '../resolve/resolve.js';
import { factsFor, type GivenFacts } from '../values/facts-for.js';
import type { BodyWriter } from './body-writer.js';
import type { Facts } from './read-value.js';
import { writeBody } from './write-body.js';

/** Many rows, as they were loaded. */
export type LoadedRows<R = object> = Iterable<R> | ArrayLike<R>;

/** What a page or a wrapped body is written from: the rows or the row, and what is known about them. */
export interface EnvelopeData<R = object> {
  /** The rows, of a page or a wrapped list. */
  readonly items?: LoadedRows<R>;
  /** The row, of a wrapped shape. */
  readonly item?: R;
  /** The page's number, from 1. */
  readonly number?: number | null;
  /** Rows on a page. */
  readonly size?: number | null;
  /** Rows in all, and how many pages they fill. */
  readonly total?: number | null;
  readonly pages?: number | null;
  /** The cursors of the next and the previous page; null where there is none. */
  readonly next?: string | null;
  readonly previous?: string | null;
}

/**
 * What a body is written from: of a shape a row, of a list rows, of an envelope either with what is known about them. A
 * row has the columns and links that the body needs; see `loadPlan`.
 * @example
 * const rows: RowsOf<typeof VesselCards> = [{ id: 1, name: 'Anselma' }];
 */
export type RowsOf<B> =
  B extends ListBody<unknown, infer M, infer K>
    ? LoadedRows<GivenRow<M, K>>
    : B extends EnvelopeBody<unknown, infer M, infer K>
      ? EnvelopeData<GivenRow<M, K>>
      : B extends ShapeOf<unknown, infer M, infer K>
        ? GivenRow<M, K>
        : never;

/** What a body is streamed from: of a list, rows that arrive one after the other too. */
export type StreamedRowsOf<B> =
  B extends ListBody<unknown, infer M, infer K> ? RowsOf<B> | AsyncIterable<GivenRow<M, K>> : RowsOf<B>;

/** Writes rows as the transfer objects of one body, in one situation. */
export interface Writer<B> {
  /** Which engine is at work. */
  readonly engine: EngineName;
  /** Why no code was made; null where it was. */
  readonly because: string | null;
  /** The body as it is in the writer's situation: plain frozen data. */
  readonly plan: ResolvedBody;
  /**
   * The plain JSON-ready value.
   *
   * @param given the facts about the caller that members and conditions use
   * @throws {RowError} where a row does not fit; {GriboError} `CALLER` where a fact is missing
   */
  object(data: RowsOf<B>, given?: GivenFacts): Output<B>;
  /** The JSON text: `JSON.stringify(object(data))` to the letter. @throws {RowError} as `object` */
  json(data: RowsOf<B>, given?: GivenFacts): string;
  /** The JSON text in UTF-8; the bytes are the caller's own. @throws {RowError} as `object` */
  bytes(data: RowsOf<B>, given?: GivenFacts): Uint8Array;
  /** The JSON text in UTF-8, in chunks, in constant memory. Where a row does not fit, the stream fails. */
  stream(data: StreamedRowsOf<B>, given?: GivenFacts): ReadableStream<Uint8Array>;
}

/** The writer of a body in one situation, with what it writes. */
interface KeptWriter {
  readonly body: ResolvedBody;
  readonly writing: BodyWriter;
  /** What callers have of it, by the reason that they are told. */
  readonly handedOut: Map<string | null, Writer<AnyBody>>;
}

const kept = keptSituations<KeptWriter>();

const writerFor = (plan: BodyPlan, situation: Situation, generating: Generating): KeptWriter =>
  kept(plan).get(`${generating} ${situationKey(situation)}`, () => {
    const settled = resolve({ plan }, situation);
    return { body: settled, writing: writeBody(settled, generating), handedOut: new Map() };
  });

/**
 * Makes the writer of a body: rows in, JSON out. Whatever the engine, `json` is
 * `JSON.stringify(object)` to the letter and `bytes` is its UTF-8. The code behind it is kept for
 * the 64 situations of a body that were used last, so it may be called for each request.
 *
 * @param body a shape, `list(shape)`, `page(shape)` or one of these wrapped
 * @param situation which endpoint and audience it is for, and what was asked; nothing by default
 * @param options `engine`: `auto`, `generated` or `interpreted`
 * @returns the writer
 * @throws {RequestError} `REQUEST` where the caller asked for what is not there, or not for them
 * @throws {GriboError} `ENGINE` where `generated` is wanted and the platform forbids it
 * @example
 * const write = writer(list(VesselCard));
 * write.json(rows); // => '[]' where there are none
 */
export const writer = <
  B extends AnyBody,
  const A extends string | null,
  const E extends string,
  const N extends string,
  const P extends string,
>(
  body: B,
  situation: SituationFor<B, A, E, N, P> = {},
  options: EngineOptions = {},
): Writer<B> => {
  const { generating, because } = engineFor(options.engine);
  const kept = writerFor(body.plan, situation as Situation, generating);
  let found = kept.handedOut.get(because);
  if (found === undefined) {
    found = handOut(kept, because);
    kept.handedOut.set(because, found);
  }
  // What was kept for a body was made for that body.
  return found as unknown as Writer<B>;
};

const handOut = <B extends AnyBody>(
  { body: plan, writing }: KeptWriter,
  because: string | null,
): Writer<B> => {
  const facts = (given?: GivenFacts): Facts => factsFor(plan.facts, given);
  return Object.freeze({
    // Asked each time: code is made at the first use, and the platform may forbid it by then.
    get engine() {
      return engineOf(writing);
    },
    get because() {
      return becauseOf(writing, because);
    },
    plan,
    // That what is written is of the body's type is the law that the tests hold.
    object: (data: RowsOf<B>, given?: GivenFacts) => writing.object(data, facts(given)) as Output<B>,
    json: (data: RowsOf<B>, given?: GivenFacts) => writing.json(data, facts(given)),
    bytes: (data: RowsOf<B>, given?: GivenFacts) => writing.bytes(data, facts(given)),
    stream: (data: StreamedRowsOf<B>, given?: GivenFacts) => writing.stream(data, facts(given)),
  });
};
