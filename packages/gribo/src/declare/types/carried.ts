declare const SET: unique symbol;

/** What a member of an input sets: the column's name, its value's type, and whether the body may set it as it stands. */
export interface SetBy<Name, T, S> {
  readonly [SET]: readonly [Name, T, S];
}

/** What a converted value still knows of the column it came from. */
export type Carried<V> = V extends SetBy<infer Name, infer T, infer S> ? SetBy<Name, T, S> : unknown;
