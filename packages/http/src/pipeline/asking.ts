import type { Identity } from '../message/identity.js';

/** A request before anything of it is done: who asks for what. */
export interface Asking {
  readonly request: Request;
  /** The endpoint's name. */
  readonly endpoint: string;
  readonly audience: string | null;
  /** Who asks, by the facts that `callerOf` names as `identity`; null where nothing says who it is. */
  readonly identity: Identity | null;
  readonly now: Date;
}
