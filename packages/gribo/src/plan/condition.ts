import type { ColumnType } from './column-type.js';
import type { ConversionPlan } from './conversion.js';
import type { ColumnPlan, LinkPlan } from './entity-plan.js';

/*
 * What is read of a row: values, conditions, and rows behind links. They are made of each other, so they stand in one
 * place. `C` are the conditions that may be in them: all of them where they are declared, those that a store can run
 * where a situation has settled the others.
 */

/** JSON as data. */
export type JsonValue =
  | null
  | boolean
  | number
  | string
  | readonly JsonValue[]
  | { readonly [name: string]: JsonValue };

/** A column of a row, or of one behind its to-one links: null where there is none. */
export interface ColumnNode {
  readonly kind: 'column';
  readonly path: readonly LinkPlan[];
  readonly column: ColumnPlan;
  /** Nobody named it: it is there because `everything` takes all columns. */
  readonly unnamed?: true;
}

/** What a service knows of whoever asks; `now` is the moment in which it asks. */
export interface FactPlan {
  readonly name: string;
  readonly type: ColumnType;
  readonly nullable: boolean;
  /** What it is, in a sentence; null where nothing is said. */
  readonly about: string | null;
}

/** A fact about the caller: the same for all rows of a response. */
export interface FactNode {
  readonly kind: 'fact';
  readonly fact: FactPlan;
}

interface DerivedNode<C> {
  readonly kind: 'derived';
  readonly inputs: readonly ValueNode<C>[];
  readonly type: ColumnType;
  readonly nullable: boolean;
  /** The way to the row it belongs to: null where that row is missing, without computing. */
  readonly guard: readonly LinkPlan[];
  readonly compute: (...inputs: never[]) => unknown;
  /** What the value is, in a sentence; null where nothing is said. */
  readonly about: string | null;
}

interface ConvertedNode<C> {
  readonly kind: 'converted';
  readonly input: ValueNode<C>;
  readonly conversion: ConversionPlan;
}

/** What is made of a column of rows behind a to-many link. */
export interface Figure {
  readonly how: 'sum' | 'average' | 'minimum' | 'maximum';
  readonly column: ColumnPlan;
  readonly yields: ColumnType;
  /** Looks at a row for what a store has made of it, or makes it of the rows; it comes along, as `compare` does. */
  readonly look: LookAtFigure;
}

/**
 * What is known of a figure in a row, or made of the rows behind its link.
 *
 * @param rows gives the rows that are selected
 * @param value reads the accepted value of one of them
 */
export type LookAtFigure = (
  row: object,
  node: Pick<FigureNode<StoreCondition>, 'link' | 'selection'>,
  of: Figure,
  rows: () => ArrayLike<unknown>,
  value: (row: unknown) => unknown,
) => unknown;

/** A figure about the rows behind a to-many link: how many they are, or what a column of theirs makes. */
export interface FigureNode<C> {
  readonly kind: 'figure';
  readonly path: readonly LinkPlan[];
  readonly link: LinkPlan;
  readonly selection: ListSelection<C>;
  /** Null: how many there are. */
  readonly of: Figure | null;
}

/** A node that yields one value of a row: it can be an input of `derive` and of conversions. */
export type ValueNode<C = ConditionNode> =
  | ColumnNode
  | FactNode
  | DerivedNode<C>
  | ConvertedNode<C>
  | { readonly kind: 'constant'; readonly value: JsonValue }
  | FigureNode<C>;

/** A value with everything settled that the situation decides. */
export type SettledValue = ValueNode<StoreCondition>;

export type FilterOperator = 'equals' | 'oneOfThese' | 'atLeast' | 'atMost' | 'contains' | 'isNull';

/** What a column is compared with; a `value` is known when it is declared, or sent by a caller. */
export type Operand = { readonly kind: 'value'; readonly value: unknown } | ColumnNode | FactNode;

/** Whether two values, in the form that rows hold, compare like this; null compares with nothing. */
export type Compare = (operator: FilterOperator, type: ColumnType, value: unknown, other: unknown) => boolean;

/** A comparison of a column. */
export interface Compares {
  readonly kind: 'compares';
  readonly left: ColumnNode;
  readonly operator: FilterOperator;
  readonly right: Operand;
  /** Compares in memory. It comes along with what is declared, so that writers without comparisons need none. */
  readonly compare: Compare;
}

/** There is a row behind a to-many link. */
export interface ThereIs<C> {
  readonly kind: 'thereIs';
  readonly path: readonly LinkPlan[];
  readonly link: LinkPlan;
  readonly selection: ListSelection<C>;
  /** What the rows in the middle of a many-to-many link must satisfy besides. */
  readonly middle: readonly C[];
}

interface Joined<C> {
  readonly kind: 'all' | 'any';
  readonly of: readonly C[];
}

interface Negated<C> {
  readonly kind: 'not';
  readonly of: C;
}

/** A condition that is data: a store can run it. */
export type StoreCondition =
  | Compares
  | ThereIs<StoreCondition>
  | Joined<StoreCondition>
  | Negated<StoreCondition>;

/** A condition that is code. */
interface Holds<C> {
  readonly kind: 'holds';
  /** The way to the row it is about: a missing row never satisfies it. */
  readonly guard: readonly LinkPlan[];
  readonly inputs: readonly ValueNode<C>[];
  readonly test: (...inputs: never[]) => unknown;
}

/** Whether a caller has asked for this name. */
interface Asked {
  readonly kind: 'asked';
  readonly name: string;
}

/**
 * A condition that only the row can settle. `asked` is left open in plans that are described, where nothing is known
 * of the caller; written, nothing is asked.
 */
export type RowCondition =
  | Compares
  | ThereIs<StoreCondition>
  | Holds<StoreCondition>
  | Asked
  | Joined<RowCondition>
  | Negated<RowCondition>;

/** The API is asked in an edition or a later one. */
interface Edition {
  readonly kind: 'edition';
  readonly from: string;
  /** Whether it holds in an edition; left out, in the newest. It comes along, as `compare` does. */
  readonly holds: (edition?: string) => boolean;
}

/** What has to hold for a member to be included, and for a row to be seen. */
export type ConditionNode =
  | { readonly kind: 'audience'; readonly names: readonly string[] }
  | Edition
  | Compares
  | ThereIs<ConditionNode>
  | Holds<ConditionNode>
  | Asked
  | Joined<ConditionNode>
  | Negated<ConditionNode>;

/** An order by one column, behind to-one links too. Nulls come last either way. */
export interface SortKey<C = StoreCondition> {
  readonly path: readonly LinkPlan[];
  readonly column: ColumnPlan;
  readonly descending: boolean;
  /** In rows where this does not hold, the value counts as null: that is what the caller sees. Null: it always holds. */
  readonly shown: C | null;
}

/** Looks at one of the loaded rows of a list, which stands at this place among them. */
type Look<T> = (row: unknown, index: number) => T;

/** How the rows of a list are looked at where some of them are picked. */
export interface RowLook {
  value(node: ColumnNode): Look<unknown>;
  test(condition: StoreCondition): Look<boolean>;
}

/** Picks the rows of a list that a selection asks for, in its order. */
export type PickRows = (
  rows: ArrayLike<unknown>,
  selection: ListSelection,
  look: RowLook,
) => ArrayLike<unknown>;

/** Which rows behind a to-many link, in what order, and how many. Nothing set: all of them, as loaded. */
export interface ListSelection<C = StoreCondition> {
  /** Conditions that must all hold. */
  readonly where: readonly C[];
  readonly sort: readonly SortKey<C>[];
  readonly limit: number | null;
  /** What tells figures about it from others of the same link: empty where all rows are selected. */
  readonly name: string;
  /** Picks rows in memory; it comes along, as `compare` does. Null where there is no condition and no order. */
  readonly pick: PickRows | null;
}
