/** `portCalls.read, create, amend`: endpoints of one resource after its first. */
export const endpointWords = (names: readonly string[]): string => {
  const [first = '', ...others] = names;
  const resource = first.slice(0, first.lastIndexOf('.') + 1);
  return [
    first,
    ...others.map((name) =>
      resource !== '' && name.startsWith(resource) ? name.slice(resource.length) : name,
    ),
  ].join(', ');
};
