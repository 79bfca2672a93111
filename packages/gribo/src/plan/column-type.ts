/** What a stored value is, with its limits: plain data, switched over by every emitter. */
export type ColumnType =
  | {
      readonly kind: 'text';
      readonly min: number | null;
      readonly max: number | null;
      readonly pattern: RegExp | null;
    }
  | { readonly kind: 'integer'; readonly min: number | null; readonly max: number | null }
  | { readonly kind: 'bigint'; readonly min: bigint | null; readonly max: bigint | null }
  | { readonly kind: 'real'; readonly min: number | null; readonly max: number | null }
  | {
      readonly kind: 'decimal';
      readonly precision: number;
      readonly scale: number;
      /** Decimals as text. */
      readonly min: string | null;
      readonly max: string | null;
    }
  | { readonly kind: 'bool' }
  | { readonly kind: 'date' }
  | { readonly kind: 'time' }
  | { readonly kind: 'duration' }
  | { readonly kind: 'timestamp' }
  | { readonly kind: 'uuid' }
  | { readonly kind: 'json' }
  | { readonly kind: 'bytes'; readonly max: number | null }
  | { readonly kind: 'oneOf'; readonly choices: readonly string[] }
  /** So many values of another kind, none of which is null. */
  | {
      readonly kind: 'array';
      readonly of: ColumnType;
      readonly min: number | null;
      readonly max: number | null;
    };

export type ColumnKind = ColumnType['kind'];

/** The type of one kind, with its limits. */
export type OfKind<K extends ColumnKind> = Extract<ColumnType, { readonly kind: K }>;
