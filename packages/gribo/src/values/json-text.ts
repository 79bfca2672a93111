/** The JSON text of a value; undefined where it has none: a function, a cycle, a bigint inside. */
export const jsonText = (value: unknown): string | undefined => {
  try {
    return JSON.stringify(value);
  } catch {
    return undefined;
  }
};
