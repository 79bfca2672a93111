import type { EnvelopeData, Key, WantedPage } from 'gribo';

/** What an operation leads to: data for the endpoint's body, or that there is none. */
export interface Outcome {
  /** A row, rows, or the data of an envelope; null where nothing is sent. */
  readonly data: unknown;
  /** The key of a row that was created. */
  readonly created: Key | null;
  /** The page that was sent. */
  readonly page: Page | null;
  /** Whether it is told without its body: it was stored, and what is sent of it could not be read. */
  readonly isBare?: true;
}

/** A page among the others. */
export interface Page {
  readonly wanted: WantedPage;
  readonly data: EnvelopeData;
  readonly hasMore: boolean;
}

/** Data alone. */
export const plain = (data: unknown): Outcome => ({ data, created: null, page: null });
