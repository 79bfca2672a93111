import type { Store } from 'gribo';
import type { Asked } from '../message/asked.js';
import type { Identity } from '../message/identity.js';
import { callerKey } from '../request/caller-key.js';

/** Milliseconds for which a replica that failed is not asked. */
const AVOIDED = 5000;

/** So many callers who changed something are remembered, at most. */
const REMEMBERED = 10_000;

export interface ReplicaOptions {
  /** Milliseconds after a change for which its caller reads what is current. */
  readonly readsOwn: number;
  /** The headers that callers are told apart by. */
  readonly decidedBy: readonly string[];
}

/** What `serve` is told of them. */
export interface ReadsOptions {
  /** A store that follows `store`, or several: requests that read are answered from them by turns. Default: none. */
  readonly reads?: Store | readonly Store[];
  /**
   * Milliseconds after a change in which its caller reads from `store`, on this server; whoever says `Cache-Control: no-cache` does so
   * anyway. Default: 5,000.
   */
  readonly readsOwn?: number;
}

const READS_OWN = 5000;

/** The stores that follow another one; null where there are none. */
export const replicasOf = (
  { reads = [], readsOwn = READS_OWN }: ReadsOptions,
  decidedBy: readonly string[],
): Replicas | null => {
  const stores = Array.isArray(reads) ? (reads as readonly Store[]) : [reads as Store];
  return stores.length === 0 ? null : new Replicas(stores, { readsOwn, decidedBy });
};

/** Whether a request asks for what is current (RFC 9111, section 5.2.1.4). */
const wantsCurrent = (asked: Asked): boolean =>
  /(?:^|[\s,])(?:no-cache|max-age=0)(?:$|[\s,])/i.test(asked.header('cache-control') ?? '');

/** Stores that follow another one, for requests that read. */
export class Replicas {
  readonly #stores: readonly Store[];
  readonly #options: ReplicaOptions;
  readonly #avoided = new Map<Store, number>();
  /** Until when callers read what is current. */
  readonly #own = new Map<string, number>();
  #next = 0;

  constructor(stores: readonly Store[], options: ReplicaOptions) {
    this.#stores = stores;
    this.#options = options;
  }

  /** The one whose turn it is; null where what is current is asked for, or none can be asked. */
  choose(asked: Asked, identity: Identity | null): Store | null {
    const now = performance.now();
    if (wantsCurrent(asked) || this.#readsOwn(asked, identity, now)) return null;
    for (let i = 0; i < this.#stores.length; i++) {
      const store = this.#stores[(this.#next + i) % this.#stores.length];
      if (store === undefined || (this.#avoided.get(store) ?? 0) > now) continue;
      this.#next += i + 1;
      return store;
    }
    return null;
  }

  /** One that could not be asked is left alone for a while. */
  failed(store: Store): void {
    this.#avoided.set(store, performance.now() + AVOIDED);
  }

  /** Somebody has changed something: that it does not see its own change would surprise it. */
  changed(asked: Asked, identity: Identity | null): void {
    const { readsOwn, decidedBy } = this.#options;
    if (readsOwn === 0) return;
    const key = callerKey(asked, decidedBy, identity);
    this.#own.delete(key);
    this.#own.set(key, performance.now() + readsOwn);
    const [oldest] = this.#own.keys();
    if (this.#own.size > REMEMBERED && oldest !== undefined) this.#own.delete(oldest);
  }

  #readsOwn(asked: Asked, identity: Identity | null, now: number): boolean {
    if (this.#own.size === 0) return false;
    const key = callerKey(asked, this.#options.decidedBy, identity);
    const until = this.#own.get(key);
    if (until === undefined) return false;
    if (until > now) return true;
    this.#own.delete(key);
    return false;
  }
}
