import type { ColumnType } from './column-type.js';

/** The kind whose values a column holds: whole numbers of both sizes are the same numbers. */
const heldKind = ({ kind }: ColumnType): string => (kind === 'bigint' ? 'integer' : kind);

/** Whether a column of one type can hold the values of another, as a link needs it. */
export const holdAlike = (one: ColumnType, other: ColumnType): boolean => heldKind(one) === heldKind(other);
