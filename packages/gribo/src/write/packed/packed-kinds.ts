import type { ColumnKind, ColumnType, OfKind } from '../../plan/column-type.js';

/** What of a value's text is written: as it is, once it was looked at; or what a text, a choice or JSON takes. */
interface PackedKind<K extends ColumnKind> {
  /** The helper that copies the field; it gives a position below zero where the field is not what it takes. */
  readonly copies: string;
  /** Whether JSON has it between quotes; null: the helper writes them where they belong. */
  readonly isQuoted: boolean | null;
  /** What the helper is told besides. */
  given?(type: OfKind<K>): number;
}

/** Kinds whose fields are copied. Those of others are made into values. */
const PACKED_KINDS: { readonly [K in ColumnKind]?: PackedKind<K> } = {
  text: { copies: 'text', isQuoted: null },
  integer: { copies: 'whole', isQuoted: false },
  bigint: { copies: 'large', isQuoted: true },
  real: { copies: 'real', isQuoted: false },
  decimal: { copies: 'decimal', isQuoted: true, given: ({ scale }) => scale },
  bool: { copies: 'bool', isQuoted: false },
  date: { copies: 'day', isQuoted: true },
  time: { copies: 'clock', isQuoted: true },
  timestamp: { copies: 'moment', isQuoted: true },
  uuid: { copies: 'uuid', isQuoted: true },
  json: { copies: 'json', isQuoted: null },
  oneOf: { copies: 'choice', isQuoted: null },
};

/** How fields of a type are copied; undefined where they are not. */
export const packedKind = (type: ColumnType): PackedKind<ColumnKind> | undefined =>
  // A row takes types of its own kind, and is found by that.
  PACKED_KINDS[type.kind] as PackedKind<ColumnKind> | undefined;
