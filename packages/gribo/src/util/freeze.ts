/** Freezes one object and hands it back: plans are built from the leaves up, so one level is enough. */
export const freeze = <const T extends object>(value: T): Readonly<T> => Object.freeze(value);
