/** `dateOnly` → `date-only`. */
export const kebabCase = (name: string): string =>
  name.replace(/(?<=[a-z0-9])[A-Z]/g, (letter) => `-${letter}`).toLowerCase();
