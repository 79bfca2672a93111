import { clock } from 'gribo/kit';

/** Who asks, without the types of an API: its audience, and what is known of it at one moment. */
export interface Caller {
  readonly audience: string | null;
  /** The facts by name, as the service gave them, and the moment. */
  readonly given: { readonly caller: object; readonly now: Date };
}

/** A caller as a service gives it. */
export interface CallerSaid {
  readonly audience?: string | null;
}

/** Who asks, now; null: nobody in particular. */
export const callerOf = (said: CallerSaid | null, now: Date = clock()): Caller => ({
  audience: said?.audience ?? null,
  given: { caller: said ?? {}, now },
});
