import {
  becauseOf,
  type EngineName,
  type EngineOptions,
  engineFor,
  engineOf,
  type Generating,
} from '../codegen/engine.js';
import type { Change, InputOf } from '../declare/types/input-types.js';
import type { InputPlan } from '../plan/input-plan.js';
import { settledInput } from '../resolve/settle-input.js';
import { BoundedCache } from '../util/bounded-cache.js';
import { freeze } from '../util/freeze.js';
import { keptBy } from '../util/kept-by.js';
import { countMembers, hasShortEscapedName, mayHaveMore } from './count-members.js';
import { depthOf, generateReader, type ReadRight } from './generate-reader.js';
import { type BareIssue, bareIssue, type Issue, type SayIssue, spoken } from './issue.js';
import { ParseFailure, parseJson } from './parse-json.js';
import { nothingSeen } from './plain-json.js';
import { InputReading, type ReadPolicies } from './read-input.js';
import { sayIssue } from './say-issue.js';

export interface ReaderPolicies extends Partial<ReadPolicies> {
  /** The most bytes a JSON text may have. Default: 1,048,576. */
  readonly bytes?: number;
  /** The most objects and arrays inside each other. Default: 32. */
  readonly depth?: number;
  /** The most members and array items in all. Default: 20,000. */
  readonly items?: number;
  /** The most rows of nested to-many inputs in all: each becomes a row of the store. Default: 1,000. */
  readonly rows?: number;
  /** Puts issues into other words, or another language. */
  readonly say?: SayIssue;
}

/** How large a body may be. */
export interface BodyLimits {
  readonly bytes: number;
  readonly depth: number;
  readonly items: number;
  readonly rows: number;
}

/** A change that can be stored, or everything that keeps the body from being one. */
export type ReadResult<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly issues: readonly Issue[] };

/** Reads bodies by one input. */
export interface Reader<T> {
  /** The input as data. */
  readonly plan: InputPlan;
  /** How large a body may be; formats that are not JSON hold themselves to it while they read. */
  readonly limits: BodyLimits;
  /** Which engine is at work. */
  readonly engine: EngineName;
  /** Why no code was made; null where it was. */
  readonly because: string | null;
  /** Reads JSON: a text, or its bytes in UTF-8. */
  json(body: string | Uint8Array): ReadResult<T>;
  /** Reads what is parsed already. */
  object(body: unknown): ReadResult<T>;
}

const refused = (issue: BareIssue, say: SayIssue): ReadResult<never> => ({
  ok: false,
  issues: freeze([spoken(issue, say)]),
});

/** The most programs that are kept for one input: one for each set of policies. */
const KEPT_PROGRAMS = 16;

const kept = keptBy((_plan: InputPlan) => new BoundedCache<ReadRight | null>(KEPT_PROGRAMS));

/** The program of an input, kept: a reader may be made for each request. */
const programFor = (plan: InputPlan, policies: ReadPolicies): ReadRight | null => {
  const { unknown, nulls, choices, text, digits } = policies;
  return kept(plan).get(`${unknown} ${nulls} ${choices} ${text} ${digits}`, () =>
    generateReader(plan, policies),
  );
};

/** The text of UTF-8 bytes; undefined where they are none. */
const textOf = (body: string | Uint8Array): string | undefined => {
  if (typeof body === 'string') return body.startsWith('\ufeff') ? body.slice(1) : body;
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(body);
  } catch {
    return undefined;
  }
};

/** The value of a JSON text, if it is one. */
const parsedOrNothing = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
};

/** Reads one input by one engine. What a program does not read at first sight, the interpreter reads. */
class InputReader {
  readonly #plan: InputPlan;
  readonly #policies: ReadPolicies;
  readonly #limits: BodyLimits;
  readonly #say: SayIssue;
  readonly #program: ReadRight | null;

  constructor(
    plan: InputPlan,
    policies: ReadPolicies,
    limits: BodyLimits,
    say: SayIssue,
    generating: Generating,
  ) {
    this.#plan = plan;
    this.#policies = policies;
    this.#limits = limits;
    this.#say = say;
    this.#program = generating !== 'never' ? programFor(plan, policies) : null;
  }

  get isGenerated(): boolean {
    return this.#program !== null;
  }

  object(body: unknown): ReadResult<object> {
    const seen = nothingSeen();
    const value = this.#program?.(body, seen);
    const isRight = value !== undefined && seen.rows <= this.#limits.rows;
    return isRight ? { ok: true, value } : this.#interpreted(body);
  }

  json(body: string | Uint8Array): ReadResult<object> {
    const { bytes, depth, items } = this.#limits;
    if (body.length > bytes) return refused(bareIssue('', 'limit', { limits: { bytes } }), this.#say);
    const text = textOf(body);
    if (text === undefined) {
      return refused(bareIssue('', 'syntax', { reason: { name: 'utf8' } }), this.#say);
    }
    const value = this.#fromRightText(text);
    if (value !== undefined) return { ok: true, value };
    try {
      return this.#interpreted(parseJson(text, { depth, items }));
    } catch (error) {
      if (error instanceof ParseFailure) return refused(error.issue, this.#say);
      throw error;
    }
  }

  /** The change of a text in which everything is right: no member is there twice, and it is within the limits. */
  #fromRightText(text: string): object | undefined {
    const { depth, items, rows } = this.#limits;
    // What may have too many parts is read by what counts them, and what engines may misread, by what does not.
    if (this.#program === null || mayHaveMore(text, items) || hasShortEscapedName(text)) return undefined;
    const seen = nothingSeen();
    const value = this.#program(parsedOrNothing(text), seen);
    // Members are counted in JSON only: in any other text the count would find no end.
    if (value === undefined) return undefined;
    const isWithin = seen.members + seen.items <= items && seen.rows <= rows;
    const isShallow = depthOf(this.#plan.fields) + seen.depth <= depth;
    const isWhole = isWithin && isShallow && countMembers(text) === seen.members;
    return isWhole ? value : undefined;
  }

  #interpreted(body: unknown): ReadResult<object> {
    const reading = new InputReading(this.#policies, this.#say, this.#limits.rows);
    const value = reading.read(this.#plan, body);
    return reading.issues.length > 0 ? { ok: false, issues: freeze(reading.issues) } : { ok: true, value };
  }
}

export interface ReaderOptions extends EngineOptions {
  /** Who sends the bodies: members that are there for other audiences do not exist. Default: callers of no audience. */
  readonly audience?: string | null;
}

/**
 * Makes the reader of an input: bodies in, changes out, under the entity's own property names.
 * Every issue is told, not the first; a body is never taken in part. The code behind it is kept, so it may
 * be called for each request.
 *
 * @param input what `input` or `amending` declared
 * @param policies `unknown`, `nulls`, `choices`, `text`, `digits`: how strictly it reads; `bytes`, `depth`,
 * `items`, `rows`: how large a body may be; `say`: the words of issues, from their data
 * @param options `audience`: who sends the bodies; `engine`: as for `writer`, engines differ in speed only
 * @throws {GriboError} `ENGINE` where `generated` is wanted and the platform forbids it
 * @example
 * reader(NewVessel).json('{"name":"Anselma"}')
 */
export const reader = <I>(
  input: I extends InputOf<unknown> ? I : 'expected what input(…), amending(…) or inputFrom(…) declares',
  policies: ReaderPolicies = {},
  options: ReaderOptions = {},
): Reader<Change<I>> => {
  const { unknown = 'refuse', nulls = 'refuse', choices = 'name', text = 'exact' } = policies;
  const { digits = 'text', say = sayIssue } = policies;
  const { bytes = 1_048_576, depth = 32, items = 20_000, rows = 1000 } = policies;
  const limits = freeze({ bytes, depth, items, rows });
  const { generating, because } = engineFor(options.engine);
  // The words stand for what the compiler refuses.
  const plan = settledInput((input as InputOf<unknown>).plan, options.audience ?? null);
  const reading = new InputReader(plan, { unknown, nulls, choices, text, digits }, limits, say, generating);
  return freeze({
    plan,
    limits,
    engine: engineOf(reading),
    because: becauseOf(reading, because),
    // That what is read is of the input's type is the law that the tests hold.
    json: (body: string | Uint8Array) => reading.json(body) as ReadResult<Change<I>>,
    object: (body: unknown) => reading.object(body) as ReadResult<Change<I>>,
  });
};
