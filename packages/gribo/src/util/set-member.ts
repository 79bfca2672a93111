/** Sets a member whatever its name: assigning `__proto__` would set the prototype instead. */
export const setMember = (target: object, name: string, value: unknown): void => {
  if (name !== '__proto__') (target as Record<string, unknown>)[name] = value;
  else Object.defineProperty(target, name, { value, enumerable: true, configurable: true, writable: true });
};
