import type { ColumnType } from 'gribo/kit';

/** A type as a catalogue has it. */
export interface SaidType {
  readonly name: string;
  readonly length: number | null;
  readonly precision: number | null;
  readonly scale: number | null;
}

const text = (max: number | null): ColumnType => ({ kind: 'text', min: null, max, pattern: null });

/** Decimals that do not say how many digits they have get plenty. */
const PLENTY = { precision: 38, scale: 10 };
const UNLIMITED = { min: null, max: null };

/** Whether a type is that of decimals that do not say how many digits they have. */
export const isUnstated = (type: ColumnType): boolean =>
  type.kind === 'decimal' && type.precision === PLENTY.precision && type.scale === PLENTY.scale;

/** The column type for what a database calls its type; null where there is none that fits. */
export const typeOf = ({ name, length, precision, scale }: SaidType): ColumnType | null => {
  switch (name.toLowerCase()) {
    case 'smallint':
    case 'int2':
    case 'int4':
    case 'integer':
    case 'int':
    case 'mediumint':
    case 'tinyint':
    case 'year':
      return { kind: 'integer', min: null, max: null };
    case 'bigint':
    case 'int8':
      return { kind: 'bigint', min: null, max: null };
    case 'real':
    case 'float4':
    case 'float8':
    case 'float':
    case 'double':
    case 'double precision':
      return { kind: 'real', min: null, max: null };
    case 'numeric':
    case 'decimal':
      return precision === null
        ? { kind: 'decimal', ...PLENTY, ...UNLIMITED }
        : { kind: 'decimal', precision, scale: scale ?? 0, ...UNLIMITED };
    case 'boolean':
    case 'bool':
      return { kind: 'bool' };
    case 'date':
      return { kind: 'date' };
    case 'time':
    case 'time without time zone':
      return { kind: 'time' };
    case 'interval':
      return { kind: 'duration' };
    case 'timestamp':
    case 'timestamptz':
    case 'datetime':
    case 'timestamp with time zone':
    case 'timestamp without time zone':
      return { kind: 'timestamp' };
    case 'uuid':
      return { kind: 'uuid' };
    case 'json':
    case 'jsonb':
      return { kind: 'json' };
    case 'bytea':
    case 'blob':
    case 'tinyblob':
    case 'mediumblob':
    case 'longblob':
      return { kind: 'bytes', max: null };
    case 'binary':
    case 'varbinary':
      return { kind: 'bytes', max: length };
    case 'text':
    case 'tinytext':
    case 'mediumtext':
    case 'longtext':
    case 'citext':
    case 'name':
      return text(null);
    case 'character varying':
    case 'character':
    case 'bpchar':
    case 'nvarchar':
    case 'nchar':
    case 'varchar':
    case 'char':
      return text(length);
    default:
      return null;
  }
};

export const unknownType = (): ColumnType => text(null);
