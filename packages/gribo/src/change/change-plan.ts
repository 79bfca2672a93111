import type { StoreCondition } from '../plan/condition.js';

/** Values of a row by the names of its columns. */
export type Values = Readonly<Record<string, unknown>>;

/** Values that rows take over from the rows of an earlier step: that is how keys get from one row to another. */
export interface Flow {
  /** The columns that are set here, and those that they are taken from, in step. */
  readonly columns: readonly string[];
  readonly from: { readonly step: number; readonly columns: readonly string[] };
  /** For each row here the place of its row there; null for a row that takes nothing over. */
  readonly rows: readonly (number | null)[];
}

/** A step is taken only where an earlier one has found a row, or has not. A step that is left out has done neither. */
export interface Only {
  readonly step: number;
  readonly found: boolean;
}

interface AnyStep {
  readonly entity: string;
  /** Null: it is always taken. */
  readonly only: Only | null;
}

/** Looks for one row and keeps it from others until the end. */
export interface FindStep extends AnyStep {
  readonly kind: 'find';
  /** The columns it is found by, with their values, or where they come from. */
  readonly by: readonly string[];
  readonly values: Values;
  readonly flows: readonly Flow[];
  /** The columns that later steps need of it. */
  readonly needs: readonly string[];
}

/** Makes rows, all of them at once. */
export interface InsertStep extends AnyStep {
  readonly kind: 'insert';
  /** What is known of each row; columns that are left out are made by the database. */
  readonly rows: readonly Values[];
  readonly flows: readonly Flow[];
  /** The columns that later steps need of them. */
  readonly needs: readonly string[];
}

/** Sets columns of a row that was found. */
export interface UpdateStep extends AnyStep {
  readonly kind: 'update';
  /** The step that found it. */
  readonly row: number;
  readonly set: Values;
  /** Columns that are one more than before: the step that found the row knows them. */
  readonly counts: readonly string[];
  readonly flows: readonly Flow[];
}

/** Removes the rows whose columns have the values of an earlier step's row, and that satisfy these conditions. */
export interface RemoveStep extends AnyStep {
  readonly kind: 'remove';
  readonly flow: Flow;
  readonly where: readonly StoreCondition[];
}

/**
 * Makes sure that rows which are named are there for the caller, before any row names them: one that it does not see is as one that is
 * not there. What the change makes itself may be named.
 */
export interface ReferenceStep extends AnyStep {
  readonly kind: 'reference';
  /** The columns that the rows are known by. */
  readonly columns: readonly string[];
  /** What is known of each row that is named: where a column has no value, none is. */
  readonly rows: readonly Values[];
  readonly flows: readonly Flow[];
  readonly conditions: readonly StoreCondition[];
  /** The entity whose rows name them, and its columns that do: what is told of one that is not there. */
  readonly namedBy: string;
  readonly refusal: Refusal;
}

/** Makes sure that rows satisfy conditions, and refuses the change where one does not. */
export interface TestStep extends AnyStep {
  readonly kind: 'test';
  /** The rows: those whose columns have the values of an earlier step's rows, and that satisfy these conditions. */
  readonly flow: Omit<Flow, 'rows'>;
  readonly where: readonly StoreCondition[];
  readonly conditions: readonly StoreCondition[];
  readonly refusal: Refusal;
}

/** Refuses the change. */
export interface RefuseStep extends AnyStep {
  readonly kind: 'refuse';
  readonly refusal: Refusal;
}

/** What is told where a row does not satisfy them: that a rule refuses it, that it names no row, or one twice. */
export type Refusal =
  | { readonly kind: 'rule'; readonly about: string | null }
  | { readonly kind: 'reference' | 'duplicate'; readonly columns: readonly string[] };

/** One thing that a store does, with all rows that it does it with. */
export type ChangeStep =
  | FindStep
  | InsertStep
  | UpdateStep
  | RemoveStep
  | ReferenceStep
  | TestStep
  | RefuseStep;

/** A change as ordered steps: plain data, which stores run in one transaction and people can read. */
export interface ChangePlan {
  readonly kind: 'changePlan';
  readonly operation: 'create' | 'amend' | 'remove';
  readonly entity: string;
  /** The step whose row it is about: the one that makes it, or the one that finds it. */
  readonly root: number;
  readonly steps: readonly ChangeStep[];
}
