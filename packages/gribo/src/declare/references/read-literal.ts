import { Broken } from './member.js';

/** A member of a literal, as it was read. */
export interface ReadMember<T> {
  readonly name: string;
  readonly value: T;
}

/** What was read of a literal: its sound members, and everything that is wrong with the others, each with its path. */
export interface ReadLiteral<T> {
  readonly members: readonly ReadMember<T>[];
  readonly broken: Broken | null;
}

/** Several that are broken, as one. */
export const allBroken = (some: readonly Broken[]): Broken | null =>
  some.length === 0 ? null : new Broken(some.flatMap(({ faults }) => faults));

/** Reads every member of a literal: the one reader of shapes, groups and inputs. */
export const readLiteral = <T extends object>(
  literal: Readonly<Record<string, unknown>>,
  read: (value: unknown) => T | Broken,
): ReadLiteral<T> => {
  const members: ReadMember<T>[] = [];
  const broken: Broken[] = [];
  for (const name of Object.keys(literal)) {
    const value = read(literal[name]);
    if (value instanceof Broken) broken.push(value.inside(name));
    else members.push({ name, value });
  }
  return { members, broken: allBroken(broken) };
};
