/** Where the values of a row stand in its line, and those of the rows behind its to-one links. */
export interface PackedLayout {
  /** The places of columns by their names. What is not here is no text that says it all: it is made into a value. */
  readonly columns: ReadonlyMap<string, number>;
  readonly ones: ReadonlyMap<string, PackedLayout>;
  /** The place that is null where there is no such row. */
  readonly present: number;
}

/** Packed rows that have been asked for. */
export interface OpenRows {
  readonly layout: PackedLayout;
  /** How many fields a line has. */
  readonly width: number;
  /** The row that a line's fields stand for. */
  row(fields: readonly (string | null)[]): object;
  /** The lines, each with its end: as bytes, which may be cut anywhere, or as texts of whole lines. */
  readonly chunks: AsyncIterator<Uint8Array | string>;
}

/** Rows that are made. */
export type AnyRows = Iterable<object> | AsyncIterable<object>;

/**
 * Whether rows that were asked for come as lines.
 *
 * @example
 * isLines([{ id: 1 }]) // => false
 */
export const isLines = (opened: OpenRows | AnyRows): opened is OpenRows => 'chunks' in opened;
