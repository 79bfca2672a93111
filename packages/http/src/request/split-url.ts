/** The path and the query of a URL, without parsing the rest. */
export const splitUrl = (url: string): { readonly path: string; readonly search: string } => {
  const start = url.indexOf('/', url.indexOf('://') + 3);
  const hash = url.indexOf('#');
  const whole = start === -1 ? '/' : url.slice(start, hash === -1 ? undefined : hash);
  const mark = whole.indexOf('?');
  return mark === -1
    ? { path: whole, search: '' }
    : { path: whole.slice(0, mark), search: whole.slice(mark + 1) };
};
