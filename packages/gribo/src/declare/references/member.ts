import type { Finding } from '../../errors/declaration-error.js';
import type { ConditionNode, ListSelection, ValueNode } from '../../plan/condition.js';
import type { DeclaredNode } from '../../plan/declared.js';
import type { LinkPlan } from '../../plan/entity-plan.js';
import { freeze } from '../../util/freeze.js';
import type { BoundEntity } from '../entity/model.js';

/** The row that a shape's function was given. */
export interface Home {
  /** Stands for the shape being declared: members of one must not end up in another. */
  readonly origin: object;
  /** The way to that row: not empty where the shape is spread over a link. */
  readonly base: readonly LinkPlan[];
}

/** What stands behind a `Value`, `Nested` or any other member while a shape is declared. */
export class MemberRef {
  readonly node: DeclaredNode;
  /** The row it was made from; null for constants, which belong anywhere. */
  readonly home: Home | null;
  /** The seals that nothing has lifted yet. */
  readonly seals: readonly string[];

  constructor(node: DeclaredNode, home: Home | null, seals: readonly string[] = []) {
    this.node = freeze(node);
    this.home = home;
    this.seals = seals;
    Object.freeze(this);
  }
}

/** What stands behind a row while a shape is declared: the way to it from the shape's own row. */
export interface RowPlace {
  readonly kind: 'row';
  readonly home: Home;
  readonly path: readonly LinkPlan[];
  readonly bound: BoundEntity;
}

/** What stands behind a to-many link while a shape is declared. */
export interface ListPlace {
  readonly kind: 'rows';
  readonly home: Home;
  readonly path: readonly LinkPlan[];
  readonly link: LinkPlan;
  readonly selection: ListSelection<ConditionNode>;
  readonly bound: BoundEntity;
}

/** One thing that is wrong with a member, and where in it: empty for the member itself. */
export interface Fault {
  readonly at: readonly string[];
  readonly message: string;
}

/** Something that is no member, kept until its shape lists everything that is wrong with it. */
export class Broken {
  readonly faults: readonly Fault[];

  constructor(wrong: string | readonly Fault[]) {
    this.faults = typeof wrong === 'string' ? [{ at: [], message: wrong }] : wrong;
    Object.freeze(this);
  }

  /** The same, as part of something under this name. */
  inside(name: string): Broken {
    return new Broken(this.faults.map(({ at, message }) => ({ at: [name, ...at], message })));
  }

  /** The same, with words in front. */
  saying(words: string): Broken {
    return new Broken(this.faults.map(({ at, message }) => ({ at, message: `${words}${message}` })));
  }

  /** What is wrong, as findings about a place. */
  findings(place: string): readonly Finding[] {
    return this.faults.map(({ at, message }) => ({ path: [place, ...at].join('.'), message }));
  }
}

/** What a reference of the declaring side really is. */
export type Reference = MemberRef | RowPlace | ListPlace | Broken;

/**
 * Every reference handed to users, with what it stands for: nothing shows on the objects themselves.
 * Rows and shapes are proxies, which cannot carry a private field of what they stand for.
 */
const references = new WeakMap<object, Reference>();

/** Makes an object stand for a reference. */
export const stand = <T extends object>(object: T, reference: Reference): T => {
  references.set(object, reference);
  return object;
};

/** What an object handed out earlier stands for, or null for anything else. */
export const referenceOf = (value: unknown): Reference | null =>
  typeof value === 'object' && value !== null ? (references.get(value) ?? null) : null;

/**
 * Hands a reference to the user under the type that the compiler sees. The types of members
 * exist for the compiler only, so this is the one place that steps over from one to the other.
 */
export const handOut = <Seen>(reference: MemberRef | ListPlace): Seen => stand(freeze({}), reference) as Seen;

/** Any property of a broken reference is as broken, so that only the first mistake is told. */
export const handOutBroken = <Seen>(wrong: string | Broken): Seen => {
  const broken = wrong instanceof Broken ? wrong : new Broken(wrong);
  const inside = (): unknown => proxy;
  const proxy: object = new Proxy(
    {},
    {
      get: inside,
      // Spread, it leaves a trace: otherwise the mistake would vanish.
      ownKeys: () => ['(spread)'],
      getOwnPropertyDescriptor: () => ({ value: proxy, enumerable: true, configurable: true }),
    },
  );
  return stand(proxy, broken) as Seen;
};

/** The value node behind a member, or the message that says why there is none. */
export const valueNode = (
  value: unknown,
  wanted: string,
): (MemberRef & { readonly node: ValueNode }) | Broken => {
  const reference = referenceOf(value);
  if (reference instanceof Broken) return reference;
  if (reference instanceof MemberRef && isValueNode(reference.node)) {
    return reference as MemberRef & { readonly node: ValueNode };
  }
  return new Broken(`${wanted} takes a column or another value of the row`);
};

const isValueNode = (node: DeclaredNode): node is ValueNode =>
  node.kind === 'column' ||
  node.kind === 'fact' ||
  node.kind === 'derived' ||
  node.kind === 'converted' ||
  node.kind === 'constant' ||
  node.kind === 'figure';
