/**
 * Why something of a row cannot be called so; null where it can. A row that lacks it would still have something
 * under that name, as every object has.
 *
 * @param instead what to write
 */
export const inheritedName = (name: string, instead: string): string | null =>
  name in Object.prototype
    ? `every object has something called ${name}: call it otherwise, ${instead}`
    : null;
