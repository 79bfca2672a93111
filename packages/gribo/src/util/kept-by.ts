/**
 * Keeps what is made of an object for as long as the object lives: asked again, it gives the same.
 *
 * @param make makes it, once for each object
 */
export const keptBy = <K extends object, V>(make: (key: K) => V): ((key: K) => V) => {
  const kept = new WeakMap<K, { readonly value: V }>();
  return (key) => {
    let found = kept.get(key);
    if (found === undefined) {
      found = { value: make(key) };
      kept.set(key, found);
    }
    return found.value;
  };
};
