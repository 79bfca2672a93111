/** Headers of Node's, name by name as they were sent. */
export const headersOf = (raw: readonly string[]): Headers => {
  const headers = new Headers();
  for (let i = 0; i < raw.length; i += 2) headers.append(raw[i] ?? '', raw[i + 1] ?? '');
  return headers;
};
