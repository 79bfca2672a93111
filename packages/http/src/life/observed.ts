import { channel } from 'node:diagnostics_channel';
import type { Asked } from '../message/asked.js';
import type { Identity } from '../message/identity.js';

/** A request as those see it who watch a service. What is not known yet, or never will be, is null. */
export interface RequestEvent {
  readonly method: string;
  /** The request itself: its headers say what it is a part of. */
  readonly request: Request;
  /** The edition that it is answered in; null where the API has none. */
  readonly edition: string | null;
  /** The endpoint's name. */
  readonly endpoint: string | null;
  readonly audience: string | null;
  /** Who asks, by the facts that say so. */
  readonly identity: Identity | null;
  readonly status: number | null;
  /** Rows that were sent: those of a list, or one. */
  readonly rows: number | null;
  /** Statements that the store ran for it, and how many milliseconds they took. */
  readonly statements: number;
  readonly statementMilliseconds: number;
  /** From the moment it came until the last of its answer was made. */
  readonly milliseconds: number | null;
}

/** A statement that was run for a request, with marks in the place of its values. */
export interface StatementEvent {
  readonly of: RequestEvent;
  readonly statement: string;
  readonly milliseconds: number;
}

const started = channel('gribo:request:start');
const ended = channel('gribo:request:end');
const ran = channel('gribo:statement');

/** Whether anybody watches: otherwise nothing is noted. */
export const isWatched = (): boolean => started.hasSubscribers || ended.hasSubscribers || ran.hasSubscribers;

/** What is noted of one request while it is answered. */
export class Observed implements RequestEvent {
  readonly method: string;
  readonly #asked: Asked;
  readonly #start = performance.now();
  edition: string | null = null;
  endpoint: string | null = null;
  audience: string | null = null;
  identity: Identity | null = null;
  status: number | null = null;
  rows: number | null = null;
  statements = 0;
  statementMilliseconds = 0;
  milliseconds: number | null = null;

  constructor(asked: Asked) {
    this.#asked = asked;
    this.method = asked.method;
    started.publish(this);
  }

  get request(): Request {
    return this.#asked.request;
  }

  ran(statement: string, milliseconds: number): void {
    this.statements += 1;
    this.statementMilliseconds += milliseconds;
    ran.publish({ of: this, statement, milliseconds } satisfies StatementEvent);
  }

  /** What a browser's tools show of it (Server Timing, a W3C working draft). */
  get timing(): string {
    const total = (performance.now() - this.#start).toFixed(1);
    const store = this.statementMilliseconds.toFixed(1);
    const many = `${this.statements} statement${this.statements === 1 ? '' : 's'}`;
    return `total;dur=${total}, store;dur=${store};desc="${many}"`;
  }

  end(): void {
    if (this.milliseconds !== null) return;
    this.milliseconds = performance.now() - this.#start;
    ended.publish(this);
  }
}
