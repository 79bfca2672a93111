/**
 * What a column of Drizzle's is in a model, by the name that it gives its class. What stands here is in the types as well as at
 * run time; a class that is missing has to be said by hand.
 */
export const KINDS = {
  PgSmallInt: 'integer',
  PgInteger: 'integer',
  PgSmallSerial: 'integer',
  PgSerial: 'integer',
  PgBigInt53: 'integer',
  PgBigSerial53: 'integer',
  PgBigInt64: 'bigint',
  PgBigSerial64: 'bigint',
  PgReal: 'real',
  PgDoublePrecision: 'real',
  PgNumeric: 'decimal',
  PgNumericNumber: 'real',
  PgNumericBigInt: 'bigint',
  PgBoolean: 'bool',
  PgDate: 'date',
  PgDateString: 'date',
  PgTime: 'time',
  PgInterval: 'duration',
  PgTimestamp: 'timestamp',
  PgTimestampString: 'timestamp',
  PgUUID: 'uuid',
  PgText: 'text',
  PgVarchar: 'text',
  PgChar: 'text',
  PgEnumColumn: 'text',
  PgEnumObjectColumn: 'text',
  PgCidr: 'text',
  PgInet: 'text',
  PgMacaddr: 'text',
  PgMacaddr8: 'text',
  PgJson: 'json',
  PgJsonb: 'json',
  PgArray: 'array',
  MySqlTinyInt: 'integer',
  MySqlSmallInt: 'integer',
  MySqlMediumInt: 'integer',
  MySqlInt: 'integer',
  MySqlYear: 'integer',
  MySqlSerial: 'integer',
  MySqlBigInt53: 'integer',
  MySqlBigInt64: 'bigint',
  MySqlReal: 'real',
  MySqlDouble: 'real',
  MySqlFloat: 'real',
  MySqlDecimal: 'decimal',
  MySqlDecimalNumber: 'real',
  MySqlDecimalBigInt: 'bigint',
  MySqlBoolean: 'bool',
  MySqlDate: 'date',
  MySqlDateString: 'date',
  MySqlTime: 'time',
  MySqlDateTime: 'timestamp',
  MySqlDateTimeString: 'timestamp',
  MySqlTimestamp: 'timestamp',
  MySqlTimestampString: 'timestamp',
  MySqlText: 'text',
  MySqlVarChar: 'text',
  MySqlChar: 'text',
  MySqlEnumColumn: 'text',
  MySqlEnumObjectColumn: 'text',
  MySqlJson: 'json',
  MySqlBinary: 'bytes',
  MySqlVarBinary: 'bytes',
  SQLiteInteger: 'integer',
  SQLiteBoolean: 'bool',
  SQLiteTimestamp: 'secondsOrMilliseconds',
  SQLiteReal: 'real',
  SQLiteNumeric: 'decimal',
  SQLiteNumericNumber: 'real',
  SQLiteNumericBigInt: 'bigint',
  SQLiteText: 'text',
  SQLiteTextJson: 'json',
  SQLiteBlobBuffer: 'bytes',
  SQLiteBlobJson: 'jsonInBytes',
  SQLiteBigInt: 'bigintInBytes',
} as const;

export type Kinds = typeof KINDS;

/** What the columns of a model are made as. */
export type Kind = Kinds[keyof Kinds];

/** What an array can hold. */
export type InArray = Exclude<
  Kind,
  | 'array'
  | 'json'
  | 'bytes'
  | 'duration'
  | 'timestamp'
  | 'secondsOrMilliseconds'
  | 'jsonInBytes'
  | 'bigintInBytes'
>;

/** The kind of a class; null where it has none. */
export const kindOf = (columnType: string): Kind | null =>
  Object.hasOwn(KINDS, columnType) ? KINDS[columnType as keyof Kinds] : null;
