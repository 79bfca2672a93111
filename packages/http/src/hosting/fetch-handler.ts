import type { Closing } from '../life/close.js';
import type { Answer } from '../message/answer.js';
import type { Asked } from '../message/asked.js';

/** What a host that knows requests of its own calls, without making Fetch objects of them. */
const DIRECT: unique symbol = Symbol('direct');

/** Answers a request. It never throws: what goes wrong is a response too. */
export interface FetchHandler {
  (request: Request): Promise<Response>;
  readonly [DIRECT]?: AnswerDirectly;
}

/** An API that is served, until it is closed. */
export interface Served extends FetchHandler {
  /**
   * Lets what is being answered be answered: who asks meanwhile is answered too, and told to connect to another one next.
   *
   * @param closing `within` so many milliseconds; `server`, the one of `node:http` that hosts it
   * @returns when all is answered or given up
   */
  close(closing?: Closing): Promise<void>;
}

/** The same on a request of a host's own. */
export type AnswerDirectly = (asked: Asked) => Promise<Answer>;

/** A handler with the way that does without Fetch objects. */
export const withDirect = (
  handle: (request: Request) => Promise<Response>,
  answer: AnswerDirectly,
  close: (closing?: Closing) => Promise<void>,
): Served => Object.assign(handle, { [DIRECT]: answer, close });

/** That way; null where an application has put a function of its own around the handler. */
export const directOf = (handler: FetchHandler): AnswerDirectly | null => handler[DIRECT] ?? null;
