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
  /** The lines, in chunks that may end anywhere. */
  readonly chunks: AsyncIterator<Uint8Array>;
}

/** Whether rows that were asked for are there already. */
export const isFew = (opened: OpenRows | readonly object[]): opened is readonly object[] =>
  Array.isArray(opened);
