/** A replacer for `JSON.stringify`, which has no large whole numbers: they become text. */
export const plainBigint = (_name: string, value: unknown): unknown =>
  typeof value === 'bigint' ? String(value) : value;
