import type { Answer } from '../message/answer.js';
import type { Asked } from '../message/asked.js';

/** What a host that knows requests of its own calls, without making Fetch objects of them. */
const DIRECT: unique symbol = Symbol('direct');

/** Answers a request. It never throws: what goes wrong is a response too. */
export interface FetchHandler {
  (request: Request): Promise<Response>;
  readonly [DIRECT]?: AnswerDirectly;
}

/** The same on a request of a host's own. */
export type AnswerDirectly = (asked: Asked) => Promise<Answer>;

/** A handler with the way that does without Fetch objects. */
export const withDirect = (
  handle: (request: Request) => Promise<Response>,
  answer: AnswerDirectly,
): FetchHandler => Object.assign(handle, { [DIRECT]: answer });

/** That way; null where an application has put a function of its own around the handler. */
export const directOf = (handler: FetchHandler): AnswerDirectly | null => handler[DIRECT] ?? null;
