/** The choices of an enumeration, from the text of its type; null for any other type. */
export const labelsIn = (whole: string): readonly string[] | null => {
  const [, list] = /^enum\((.*)\)$/i.exec(whole) ?? [];
  const labels = list?.match(/'(?:[^']|'')*'/g);
  return labels?.map((label) => label.slice(1, -1).replaceAll("''", "'")) ?? null;
};
