/** The facts that say who somebody is, by their names. */
export type Identity = Readonly<Record<string, unknown>>;

/** Who a caller is: whatever else is known of it may be another thing with the next request. Null: nothing says who it is. */
export const identityOf = (caller: object, names: readonly string[]): Identity | null => {
  const facts = caller as Readonly<Record<string, unknown>>;
  const known = names.some((name) => facts[name] !== undefined && facts[name] !== null);
  return known ? Object.fromEntries(names.map((name) => [name, facts[name]])) : null;
};
