import type { Contract, ContractInputMember, ContractType } from 'gribo';

/** What is filled in, by dotted names; nothing is an empty text. */
export type Filled = Readonly<Record<string, string>>;

type Type = ContractType<ContractInputMember>;

/** The members inside a member; null for a single value or a list. */
export const insideOf = (type: Type, contract: Contract): readonly ContractInputMember[] | null => {
  if (type.kind === 'group') return type.members;
  return type.kind === 'object' ? (contract.inputs[type.of]?.members ?? []) : null;
};

const parsed = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    // The API says what is wrong with it.
    return text;
  }
};

const filledValue = (type: Type, text: string): unknown => {
  switch (type.kind) {
    case 'integer':
    case 'real':
      return text.trim() === '' || Number.isNaN(Number(text)) ? text : Number(text);
    case 'bool':
      return text === 'true';
    case 'json':
    case 'array':
    case 'list':
      return parsed(text);
    case 'constant':
      return type.value;
    default:
      return text;
  }
};

/** The body that a form stands for: what is not filled in is left out, or null where it must be there and may be. */
export const bodyOf = (
  members: readonly ContractInputMember[],
  filled: Filled,
  contract: Contract,
  above = '',
): Record<string, unknown> => {
  const body: Record<string, unknown> = {};
  for (const { name, type, when, nullable } of members) {
    const path = above + name;
    const inside = insideOf(type, contract);
    if (inside !== null) {
      const inner = bodyOf(inside, filled, contract, `${path}.`);
      const isEmpty = Object.values(inner).every((value) => value === null) && when !== undefined;
      if (!isEmpty) body[name] = inner;
      continue;
    }
    const text = filled[path] ?? '';
    if (text !== '') body[name] = filledValue(type, text);
    else if (when === undefined && nullable === true) body[name] = null;
  }
  return body;
};

/** What is wrong with a member, by its dotted name. */
export type Issues = Readonly<Record<string, string>>;

/**
 * The issues of a problem, at the members they are about.
 *
 * @param above the pointer to what the form stands for; those elsewhere are left out
 */
export const issuesOf = (text: string, above: string): Issues => {
  const problem = parsed(text) as
    | { readonly errors?: readonly { readonly pointer?: string; readonly message?: string }[] }
    | string;
  if (typeof problem !== 'object' || problem === null) return {};
  const issues = (problem.errors ?? []).flatMap(({ pointer, message }) =>
    pointer === undefined || message === undefined || !pointer.startsWith(`${above}/`)
      ? []
      : [
          [
            pointer
              .slice(above.length + 1)
              .replaceAll('/', '.')
              .replaceAll('~1', '/')
              .replaceAll('~0', '~'),
            message,
          ] as const,
        ],
  );
  return Object.fromEntries(issues);
};
