import { hash } from 'node:crypto';
import { type ConflictError, DeclarationError, GriboError, type Store } from 'gribo';
import { comparison, type EntityPlan, ordering, type StoreCondition } from 'gribo/kit';
import type { Answer } from '../message/answer.js';
import type { Asked } from '../message/asked.js';
import type { Identity } from '../message/identity.js';
import { rowPlan } from '../operations/row-plan.js';
import { Problem } from '../problems/problem.js';
import { answerColumns, type KeptAnswer } from './answer-columns.js';

/** The most characters of a key. */
const LONGEST = 255;

/** A structured string (RFC 9651, section 3.3.3), or the same without its marks, as most send it. */
const KEY = /^(?:"([ !#-[\]-~]+)"|([!#-[\]-~]+))$/;

/** The key of a request that may come again; null where it has none. @throws {Problem} 400 */
const keyIn = (asked: Asked): string | null => {
  const said = asked.header('idempotency-key');
  if (said === null) return null;
  const [, quoted, bare] = KEY.exec(said) ?? [];
  const key = quoted ?? bare;
  if (key === undefined || key.length > LONGEST)
    throw new Problem(400, {
      detail: `Idempotency-Key: expected a text of 1 to ${LONGEST} printable characters, such as a UUID.`,
    });
  return key;
};

const hashed = (said: string | Uint8Array): string => hash('sha256', said, 'base64url');

/** What a request is repeated of: under which key, and with which body. */
export interface Repeated {
  readonly key: string;
  readonly body: string;
  /** Whether it is known who asks. */
  readonly known: boolean;
}

/** An answer, and what its body was written from, for whoever wants it in another format; null where that cannot be kept. */
export interface Made {
  readonly answer: Answer;
  readonly made: Uint8Array | null;
}

/** What a request that may have come before asks for. */
export interface RepeatedWork {
  /** Whether what it reads must still be so when it ends, as of a handler's transaction. */
  readonly steady: boolean;
  /** Does it for the first time. */
  first(within: Store): Promise<Made>;
  /** The answer that was given then, as it is asked for now. */
  again(kept: Made): Promise<Answer>;
}

/**
 * What a request is known by when it comes again; null where it says nothing of that.
 *
 * @param identity who asks: nobody is given somebody else's answer; null where that is not known
 * @param as what else it is asked as: the audience, the edition
 * @param change what was read of its body
 * @param hasFormat whether `?format=` names the format of the answer
 */
export const repeatedBy = (
  asked: Asked,
  identity: Identity | null,
  as: unknown,
  change: unknown,
  hasFormat: boolean,
): Repeated | null => {
  const key = keyIn(asked);
  if (key === null) return null;
  const { pathname, searchParams } = new URL(asked.url);
  // Whoever wants the answer in another format wants the same answer.
  if (hasFormat) searchParams.delete('format');
  const place = JSON.stringify([asked.method, pathname, searchParams.toString(), identity, as, key], plainly);
  const body = hashed(JSON.stringify(change ?? null, plainly));
  return { key: hashed(place), body, known: identity !== null };
};

/** Values that JSON has no words for. */
function plainly(_name: string, value: unknown): unknown {
  if (typeof value === 'bigint') return `${value}n`;
  return value instanceof Uint8Array ? Buffer.from(value).toString('base64') : value;
}

const bytesOf = async ({ content }: Answer): Promise<Uint8Array | null> => {
  if (content === null) return null;
  // A list that is sent while it is made is made as a whole.
  if (content instanceof ReadableStream) return new Uint8Array(await new Response(content).arrayBuffer());
  return typeof content === 'string' ? Buffer.from(content) : content;
};

const isOfOurs = (error: unknown, entity: EntityPlan): boolean => {
  const { code, reason, entity: about } = error as Partial<ConflictError>;
  return code === 'CONFLICT' && reason === 'duplicate' && about === entity.name;
};

const DAY = 86_400_000;
const MOST_ANONYMOUS = 10_000;

/** What `serve` is told of them. */
export interface RepeatsOptions {
  /**
   * The entity that answers are kept in, of `answerColumns()`: a request with an `Idempotency-Key` that comes again is given the first
   * answer, and is not done again. Default: none, and the header means nothing.
   */
  readonly repeats?: { readonly entity: EntityPlan };
  /** Milliseconds for which they are kept. Default: a day. */
  readonly repeatsFor?: number;
  /**
   * So many answers to callers who are not known are kept at most; where there are more, their keys are refused with 429. Default: 10,000.
   */
  readonly anonymousRepeats?: number;
}

/** Where callers are told apart, it has to be said by what: nobody is given the answer of somebody else, and everybody gets its own again. */
const identityFindings = (identity: readonly string[], isDecided: boolean) =>
  isDecided && identity.length === 0
    ? [
        {
          path: 'repeats',
          message:
            "a request that comes again is known by who sends it: say which facts tell that, callerOf({ user: text() }, { identity: ['user'] })",
        },
      ]
    : [];

/**
 * Where answers are kept; null: nowhere.
 *
 * @param identity the facts that say who a caller is
 * @param isDecided whether callers are told apart
 * @throws {DeclarationError} where the entity lacks a column, or nothing says who a caller is
 */
export const keptAnswersOf = (
  { repeats, repeatsFor = DAY, anonymousRepeats = MOST_ANONYMOUS }: RepeatsOptions,
  identity: readonly string[],
  isDecided: boolean,
): KeptAnswers | null => {
  if (repeats === undefined) return null;
  const { entity } = repeats;
  const names = new Set(entity.columns.map(({ name }) => name));
  const missing = Object.keys(answerColumns()).filter((name) => !names.has(name));
  const findings = missing.map((name) => ({
    path: `${entity.name}.${name}`,
    message: `answers are kept in it: it needs the column ${name} of answerColumns()`,
  }));
  DeclarationError.throwIfAny('serve', [...findings, ...identityFindings(identity, isDecided)]);
  return new KeptAnswers(entity, { milliseconds: repeatsFor, anonymous: anonymousRepeats });
};

/** How long they are kept, and how many. */
interface KeptTerms {
  readonly milliseconds: number;
  /** Of callers who are not known. */
  readonly anonymous: number;
}

/** Two tries find the answer, or that there is none any more. */
const TRIES = 3;

/** So many that are too old are removed with a new one, so that there are never many more than time lets be there. */
const SWEPT = 20;

/** Milliseconds until it is looked again where fewer than that were too old. */
const PAUSE = 10_000;

/** So many of callers who are not known are let in until they are counted again. */
const UNCOUNTED = 100;

const tooMany = (): Problem =>
  new Problem(429, {
    detail:
      'Idempotency-Key: too many keys of callers who are not known are kept. Send it later, or without a key.',
    headers: { 'retry-after': '60' },
  });

/** Answers that are given again where a request comes again: they are stored with what it changed, or not at all. */
export class KeptAnswers {
  readonly #entity: EntityPlan;
  readonly #terms: KeptTerms;
  /** When it is looked next whether some are too old. */
  #sweepAt = 0;
  /** How many of callers who are not known may come until they are counted. */
  #room = 0;

  constructor(entity: EntityPlan, terms: KeptTerms) {
    this.#entity = entity;
    this.#terms = terms;
  }

  /**
   * The answer that was given, or what work makes, kept in the transaction that it is done in.
   *
   * @throws {Problem} 422 where the key was used for another body, 429 where there is no room for it
   */
  async answer(store: Store, repeated: Repeated, now: Date, work: RepeatedWork): Promise<Answer> {
    if (store.transaction === undefined)
      throw new Problem(400, { detail: 'Idempotency-Key is not taken here: the store has no transactions.' });
    // What is there is found before room is looked for: whoever comes again needs none.
    if (!repeated.known) {
      const known = await this.#known(store, repeated, now);
      if (known !== null) return work.again(known);
      await this.#checkRoom(store, now);
    }
    for (let tries = 1; ; tries++) {
      try {
        return await store.transaction((within) => this.#first(within, repeated, now, work), {
          steady: work.steady,
        });
      } catch (error) {
        if (!isOfOurs(error, this.#entity) || tries === TRIES) throw error;
      }
      const known = await this.#known(store, repeated, now);
      if (known !== null) return work.again(known);
    }
  }

  /** Removes some of those that are too old. */
  async sweep(store: Store, now: Date): Promise<void> {
    if (now.getTime() < this.#sweepAt) return;
    const { name, key } = this.#entity;
    const columns = this.#entity.columns.filter((column) => key.includes(column.name));
    const query = {
      where: this.#at('atMost', now),
      sort: [ordering(this.#column('at'), false)],
      limit: SWEPT,
    };
    const old = (await store.list(rowPlan(this.#entity, columns), query)) as readonly Pick<
      KeptAnswer,
      'key'
    >[];
    if (old.length < SWEPT) this.#sweepAt = now.getTime() + PAUSE;
    for (const row of old) await store.remove(name, [row.key]);
  }

  async #checkRoom(store: Store, now: Date): Promise<void> {
    if (this.#room <= 0) {
      const unknown = comparison(this.#column('known'), 'equals', false);
      const there = await store.count(this.#entity.name, [unknown, ...this.#at('atLeast', now)]);
      this.#room = Math.min(UNCOUNTED, this.#terms.anonymous - there);
    }
    if (this.#room <= 0) throw tooMany();
    this.#room -= 1;
  }

  /** Whoever comes second waits at the key until the first is done. */
  async #first(
    within: Store,
    { key, body, known }: Repeated,
    now: Date,
    work: RepeatedWork,
  ): Promise<Answer> {
    const stamp = { caller: {}, now };
    const row: KeptAnswer = { key, body, status: 0, headers: '', content: null, made: null, known, at: now };
    await within.create(this.#entity.name, row, { stamp });
    const { answer, made } = await work.first(within);
    const content = await bytesOf(answer);
    const kept = { status: answer.status, headers: JSON.stringify(answer.headers), content, made };
    await within.amend(this.#entity.name, [key], kept, { stamp });
    return { ...answer, content };
  }

  /** The answer that was kept; null where there is none any more, or it is too old. */
  async #known(store: Store, { key, body }: Repeated, now: Date): Promise<Made | null> {
    const found = await store.read(rowPlan(this.#entity, this.#entity.columns), [key]);
    if (found === null) return null;
    // It has the columns of `answerColumns`: that is looked at when it is named.
    const row = found as KeptAnswer;
    if (row.at <= this.#oldest(now)) {
      await store.remove(this.#entity.name, [key]);
      return null;
    }
    if (row.body !== body)
      throw new Problem(422, {
        detail: 'This Idempotency-Key came before, with another body. A new request takes a new key.',
      });
    const headers = JSON.parse(row.headers) as Record<string, string>;
    return { answer: { status: row.status, headers, content: row.content }, made: row.made };
  }

  /** Those of this moment and before are too old. */
  #oldest(now: Date): Date {
    return new Date(now.getTime() - this.#terms.milliseconds - 1);
  }

  #at(operator: 'atMost' | 'atLeast', now: Date): readonly StoreCondition[] {
    return [comparison(this.#column('at'), operator, this.#oldest(now))];
  }

  #column(name: keyof KeptAnswer): EntityPlan['columns'][number] {
    const column = this.#entity.columns.find((one) => one.name === name);
    if (column === undefined) throw new GriboError('MISUSE', name, `answers are kept in a column ${name}`);
    return column;
  }
}
