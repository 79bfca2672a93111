import type { ColumnType } from './column-type.js';

/** What is known where a column is stamped. */
export interface StampGiven {
  /** Facts about the caller by name, with its `audience`. */
  readonly caller: Readonly<Record<string, unknown>>;
  /** The moment of the change. */
  readonly now: Date;
}

/** When a column is set by each change itself: by the one that makes the row, by every one, or by its removal. */
export interface StampPlan {
  readonly on: 'create' | 'change' | 'remove';
  /** What makes the value; `count`: one more than before, from 1. */
  readonly value: ((given: StampGiven) => unknown) | 'count';
}

/** The form in which a database keeps a value, where it is another one. */
export interface Coding {
  /** The type of what is stored. */
  readonly type: ColumnType;
  /** The value of what is stored, and what is stored for a value; null stays null. */
  readonly read: (stored: unknown) => unknown;
  readonly write: (value: unknown) => unknown;
}

/** One column of an entity, as the row and the database know it. */
export interface ColumnPlan {
  /** The row's property name. */
  readonly name: string;
  /** The column's name in the database. */
  readonly stored: string;
  readonly type: ColumnType;
  readonly nullable: boolean;
  readonly key: boolean;
  readonly generated: boolean;
  /** Whether the database sets it where a change does not. */
  readonly defaulted: boolean;
  /** What sets it whatever a change says; null where nothing does. */
  readonly stamped: StampPlan | null;
  /** Whether no two rows may have the same value; null is no value. */
  readonly unique: boolean;
  /** The label of the seal, or null where the column is open. */
  readonly sealed: string | null;
  /** Reads the value where the row keeps it under another name, or behind a method. */
  readonly via: ((row: object) => unknown) | null;
  /** How it is stored; null: as its type is. */
  readonly coded: Coding | null;
  /** What the value is, in a sentence; null where nothing is said. */
  readonly about: string | null;
  /** A made-up value, as a row holds it; undefined where there is none. */
  readonly example: unknown;
}

/** A table and its columns. Links are kept by the model, so this is a tree without cycles. */
export interface EntityPlan {
  /** `envelope`: no table, but what is known about the rows that an envelope is put around; `values`: none either, but what a command is told. */
  readonly kind: 'table' | 'envelope' | 'values';
  readonly name: string;
  readonly table: string;
  readonly columns: readonly ColumnPlan[];
  /** Whether its rows are only read: a view's. */
  readonly readOnly: boolean;
  /** Property names of the key columns, in order. */
  readonly key: readonly string[];
}

/** One step from a row to the row or rows behind one of its links. */
export interface LinkPlan {
  readonly name: string;
  readonly kind: 'toOne' | 'toMany';
  /** The entity that has the link, and the one it leads to. */
  readonly owner: string;
  readonly target: EntityPlan;
  /** Property names on this side and on the other, in step. */
  readonly from: readonly string[];
  readonly to: readonly string[];
  /**
   * Where the reference is that makes sure of it: `here`, this side's columns hold the key of a row that is there; `there`,
   * the other side holds this one's; `none`, nothing makes sure.
   */
  readonly reference: 'here' | 'there' | 'none';
  /** Whether there may be no row behind a to-one link. */
  readonly nullable: boolean;
  readonly through: ThroughPlan | null;
}

/** The entity in the middle of a many-to-many link: `from` leads back to the owner, `to` on to the target. */
export interface ThroughPlan {
  readonly entity: EntityPlan;
  readonly from: readonly string[];
  readonly to: readonly string[];
}
