import type { ApiPlan } from '../plan/api-plan.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import type { LinkedEntities } from '../plan/linked-entity.js';
import type { Flow } from './lineage/lineage.js';
import type { NameStyle } from './name-style.js';

/** `error` and `warning` want something done; `note` is worth knowing. */
export type Severity = 'error' | 'warning' | 'note';

/** What a rule finds in one place. */
export interface Found {
  /** A column (`vessel.masterPhone`), a shape's member (`VesselCard.name`) or an endpoint's (`vessels.list/items[].name`). */
  readonly place: string;
  /** What is so, in a sentence. */
  readonly message: string;
  /** Where it differs from the rule's. */
  readonly severity?: Severity;
  readonly advice?: string;
}

/** How an API is served, as far as it is known where it is reviewed. */
export interface Serving {
  /** Whether callers are told apart. */
  readonly audience?: boolean;
  /** The names of the formats that request bodies are read in. */
  readonly formats?: readonly string[];
  /** Seconds that responses may be kept, by endpoint. */
  readonly cache?: Readonly<Record<string, number | undefined>>;
  /** The most rows that a body may have inside others. */
  readonly rows?: number;
}

/** What rules look at. */
export interface ReviewContext {
  readonly api: ApiPlan;
  /** The API in all of its editions, oldest first; itself alone where it has none. */
  readonly editions: readonly ApiPlan[];
  /** Every entity of the model and of the API. */
  readonly entities: readonly EntityPlan[];
  readonly model: LinkedEntities;
  readonly flows: readonly Flow[];
  readonly style: NameStyle;
  /** `YYYY-MM-DD` */
  readonly today: string;
  readonly serving: Serving;
  /** Sample rows by entity; null where none are given. */
  readonly samples: Readonly<Record<string, Iterable<object>>> | null;
}

/** One kind of finding: what it is, what to do about it, and how it is found. */
export interface FindingRule {
  /** Its stable name, in kebab case. */
  readonly code: string;
  readonly severity: Severity;
  /** What it is about, in a sentence, for tools that show rules. */
  readonly rule: string;
  /** What to do about it, in a sentence. */
  readonly advice: string;
  /** `newest`: what is so in an edition before says nothing. Left out: it is looked for in all of them. */
  readonly editions?: 'newest';
  find(context: ReviewContext): readonly Found[];
}

/** One thing that a review found. docs/check.md says for each code what it means. */
export interface ReviewFinding {
  readonly code: string;
  readonly severity: Severity;
  readonly place: string;
  readonly message: string;
  readonly advice: string;
}

/** A finding that is all right, and why. */
export interface Accepted {
  readonly code: string;
  /** The finding's place; with `*` at its end, every place that starts so. */
  readonly place: string;
  readonly reason: string;
}
