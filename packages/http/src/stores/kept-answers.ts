import { hash } from 'node:crypto';
import { type ConflictError, DeclarationError, type Store } from 'gribo';
import type { EntityPlan } from 'gribo/kit';
import type { Answer } from '../message/answer.js';
import type { Asked } from '../message/asked.js';
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
}

/**
 * What a request is known by when it comes again; null where it says nothing of that.
 *
 * @param whom who asks, as the API knows them: nobody is given somebody else's answer
 * @param change what was read of its body
 */
export const repeatedBy = (asked: Asked, whom: unknown, change: unknown): Repeated | null => {
  const key = keyIn(asked);
  if (key === null) return null;
  const { pathname, search } = new URL(asked.url);
  const place = JSON.stringify([asked.method, pathname, search, whom, key], plainly);
  return { key: hashed(place), body: hashed(JSON.stringify(change ?? null, plainly)) };
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

/** What `serve` is told of them. */
export interface RepeatsOptions {
  /**
   * The entity that answers are kept in, of `answerColumns()`: a request with an `Idempotency-Key` that comes again is given the first
   * answer, and is not done again. Default: none, and the header means nothing.
   */
  readonly repeats?: { readonly entity: EntityPlan };
  /** Milliseconds for which they are kept. Default: a day. */
  readonly repeatsFor?: number;
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
  { repeats, repeatsFor = DAY }: RepeatsOptions,
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
  return new KeptAnswers(entity, repeatsFor);
};

/** Two tries find the answer, or that there is none any more. */
const TRIES = 3;

/** Answers that are given again where a request comes again: they are stored with what it changed, or not at all. */
export class KeptAnswers {
  readonly #entity: EntityPlan;
  readonly #milliseconds: number;

  /** @param milliseconds how long they are kept */
  constructor(entity: EntityPlan, milliseconds: number) {
    this.#entity = entity;
    this.#milliseconds = milliseconds;
  }

  /**
   * The answer that was given, or what work makes, kept in the transaction that it is done in.
   *
   * @throws {Problem} 422 where the key was used for another body
   */
  async answer(
    store: Store,
    repeated: Repeated,
    now: Date,
    work: (within: Store) => Promise<Answer>,
  ): Promise<Answer> {
    if (store.transaction === undefined)
      throw new Problem(400, { detail: 'Idempotency-Key is not taken here: the store has no transactions.' });
    for (let tries = 1; ; tries++) {
      try {
        return await store.transaction((within) => this.#first(within, repeated, now, work));
      } catch (error) {
        if (!isOfOurs(error, this.#entity) || tries === TRIES) throw error;
      }
      const known = await this.#known(store, repeated, now);
      if (known !== null) return known;
    }
  }

  /** Whoever comes second waits at the key until the first is done. */
  async #first(
    within: Store,
    { key, body }: Repeated,
    now: Date,
    work: (within: Store) => Promise<Answer>,
  ): Promise<Answer> {
    const stamp = { caller: {}, now };
    const row: KeptAnswer = { key, body, status: 0, headers: '', content: null, at: now };
    await within.create(this.#entity.name, row, { stamp });
    const answer = await work(within);
    const content = await bytesOf(answer);
    const kept = { status: answer.status, headers: JSON.stringify(answer.headers), content };
    await within.amend(this.#entity.name, [key], kept, { stamp });
    return { ...answer, content };
  }

  /** The answer that was kept; null where there is none any more, or it is too old. */
  async #known(store: Store, { key, body }: Repeated, now: Date): Promise<Answer | null> {
    const found = await store.read(rowPlan(this.#entity, this.#entity.columns), [key]);
    if (found === null) return null;
    // It has the columns of `answerColumns`: that is looked at when it is named.
    const row = found as KeptAnswer;
    if (now.getTime() - row.at.getTime() > this.#milliseconds) {
      await store.remove(this.#entity.name, [key]);
      return null;
    }
    if (row.body !== body)
      throw new Problem(422, {
        detail: 'This Idempotency-Key came before, with another body. A new request takes a new key.',
      });
    const headers = JSON.parse(row.headers) as Record<string, string>;
    return { status: row.status, headers, content: row.content };
  }
}
