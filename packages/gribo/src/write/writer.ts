import { type EngineName, type EngineOptions, engineFor, forbidden } from '../codegen/engine.js';
import type { AnyBody, EnvelopeBody, ListBody, Output } from '../declare/types/shape-types.js';
import type { BodyPlan } from '../plan/declared.js';
import type { ResolvedBody } from '../plan/resolved.js';
import type { Situation } from '../plan/situation.js';
import { KEPT_SITUATIONS, resolve, situationKey } from '../resolve/resolve.js';
import { BoundedCache } from '../util/bounded-cache.js';
import type { BodyWriter } from './body-writer.js';
import { writeBody } from './write-body.js';

/** One row, as it was loaded: a plain object or a class instance; links hold rows. */
export type LoadedRow = object;

/** Many rows, as they were loaded. */
export type LoadedRows = Iterable<LoadedRow> | ArrayLike<LoadedRow>;

/** What a page or a wrapped body is written from: the rows or the row, and what is known about them. */
export interface EnvelopeData {
  /** The rows, of a page or a wrapped list. */
  readonly items?: LoadedRows;
  /** The row, of a wrapped shape. */
  readonly item?: LoadedRow;
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

/** What a body is written from. */
export type DataOf<B> =
  B extends ListBody<infer _F> ? LoadedRows : B extends EnvelopeBody<infer _W> ? EnvelopeData : LoadedRow;

/** What a body is streamed from. */
export type StreamDataOf<B> =
  B extends ListBody<infer _F> ? LoadedRows | AsyncIterable<LoadedRow> : DataOf<B>;

/** Writes rows as the transfer objects of one body, in one situation. */
export interface Writer<B> {
  /** Which engine is at work. */
  readonly engine: EngineName;
  /** Why no code was made; null where it was. */
  readonly because: string | null;
  /** The body as it is in the writer's situation: plain frozen data. */
  readonly plan: ResolvedBody;
  /** The plain JSON-ready value. @throws {RowError} where a row does not fit */
  object(data: DataOf<B>): Output<B>;
  /** The JSON text: `JSON.stringify(object(data))` to the letter. @throws {RowError} as `object` */
  json(data: DataOf<B>): string;
  /** The JSON text in UTF-8; the bytes are the caller's own. @throws {RowError} as `object` */
  bytes(data: DataOf<B>): Uint8Array;
  /** The JSON text in UTF-8, in chunks, in constant memory. Where a row does not fit, the stream fails. */
  stream(data: StreamDataOf<B>): ReadableStream<Uint8Array>;
}

/** The writer of a body in one situation, with what it writes. */
interface KeptWriter {
  readonly body: ResolvedBody;
  readonly writing: BodyWriter;
}

const kept = new WeakMap<BodyPlan, BoundedCache<KeptWriter>>();

/** The writer of a situation, kept for those used last: callers choose situations. */
const writerFor = (plan: BodyPlan, situation: Situation, engine: EngineName): KeptWriter => {
  let cache = kept.get(plan);
  if (cache === undefined) {
    cache = new BoundedCache(KEPT_SITUATIONS);
    kept.set(plan, cache);
  }
  return cache.get(`${engine} ${situationKey(situation)}`, () => {
    const settled = resolve({ plan }, situation);
    return { body: settled, writing: writeBody(settled, engine) };
  });
};

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
export const writer = <B extends AnyBody>(
  body: B,
  situation: Situation = {},
  options: EngineOptions = {},
): Writer<B> => {
  const { engine, because } = engineFor(options.engine);
  const { body: plan, writing } = writerFor(body.plan, situation, engine);
  return Object.freeze({
    // Asked each time: code is made at the first use, and the platform may forbid it by then.
    get engine() {
      return writing.isGenerated ? 'generated' : 'interpreted';
    },
    get because() {
      return writing.isGenerated ? null : (because ?? forbidden);
    },
    plan,
    // That what is written is of the body's type is the law that the tests hold.
    object: (data: DataOf<B>) => writing.object(data) as Output<B>,
    json: (data: DataOf<B>) => writing.json(data),
    bytes: (data: DataOf<B>) => writing.bytes(data),
    stream: (data: StreamDataOf<B>) => writing.stream(data),
  });
};
