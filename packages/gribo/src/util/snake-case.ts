/** `masterPhone` → `master_phone`, `imoNumber2` → `imo_number2`, `lengthM` → `length_m`. */
export const snakeCase = (name: string): string =>
  name.replace(/(?<=[a-z0-9])([A-Z])|(?<=[A-Z])([A-Z])(?=[a-z])/g, '_$1$2').toLowerCase();
