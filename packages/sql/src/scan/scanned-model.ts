import type { ColumnType } from 'gribo/kit';
import type { ScannedColumn } from '../catalogue/database-schema.js';

/** A column with the name it gets in the model. */
export interface ModelColumn {
  readonly name: string;
  readonly column: ScannedColumn & { readonly type: ColumnType };
  readonly key: boolean;
  readonly unique: boolean;
  /** Whether its name tells of what not everybody should see: then it comes out sealed. */
  readonly isSecret: boolean;
}

/** A column that holds a value of another: by the names of the model. */
export type ModelPair = readonly [holding: string, held: string];

export type ModelLink =
  | {
      readonly kind: 'toOne';
      readonly name: string;
      readonly target: string;
      readonly pairs: readonly ModelPair[];
      /** Whether the pairs are the target's key, in its order. */
      readonly isKey: boolean;
      /** Whether the other side holds this one's key, so that there may be no row. */
      readonly optional: boolean;
    }
  | {
      readonly kind: 'toMany';
      readonly name: string;
      readonly target: string;
      readonly pairs: readonly ModelPair[];
      readonly isKey: boolean;
    }
  | {
      readonly kind: 'through';
      readonly name: string;
      readonly target: string;
      readonly through: string;
      readonly from: readonly ModelPair[];
      readonly to: readonly ModelPair[];
      readonly isKey: boolean;
    };

export interface ModelEntity {
  readonly name: string;
  /** What statements call its table: with its schema, where it is not found without. */
  readonly table: string;
  readonly about: string | null;
  /** Whether it is a view's, which is only read. */
  readonly readOnly: boolean;
  /** Whether the database says no key, so that one is proposed. */
  readonly isKeyProposed: boolean;
  readonly columns: readonly ModelColumn[];
  readonly links: readonly ModelLink[];
  /** What the database has, and the model does not say: columns, checks, references; each with why. */
  readonly unsaid: readonly { readonly what: string; readonly why: string }[];
}

/** A model as it follows from a database: entities with names, columns and links. */
export interface ScannedModel {
  readonly entities: readonly ModelEntity[];
  /** Tables that cannot be entities, and why. */
  readonly leftOut: readonly { readonly table: string; readonly why: string }[];
}
