/** How names are written. */
export type NameStyle = 'camelCase' | 'snake_case' | 'kebab-case' | 'PascalCase';
