/**
 * Whether a value has a member `$ref` with a text in it. Tools that read documents take any such object for a
 * reference, in examples too, where it is none (OpenAPI 3.1, section 4.8.19).
 */
export const namesReference = (value: unknown): boolean => {
  if (typeof value !== 'object' || value === null) return false;
  return Object.entries(value).some(
    ([name, member]) => (name === '$ref' && typeof member === 'string') || namesReference(member),
  );
};
