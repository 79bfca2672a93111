import { compareEditions, EDITION_NAME } from '../../editions/edition-order.js';
import type { Here } from '../../editions/here.js';
import type { Finding } from '../../errors/declaration-error.js';
import type { EditionPlan } from '../../plan/api-plan.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import { type Deprecation, noticeOf } from '../members/deprecated.js';
import { Broken } from '../references/member.js';

/** An edition of an API: its name, with what is said of it. */
export type EditionOption<Name extends string = string> =
  | Name
  | {
      readonly name: Name;
      /** Says that it will go: after its `sunset` it is answered with 410. */
      readonly deprecated?: Deprecation;
    };

const PLACE = 'editions';

const orderFindings = (names: readonly string[]): readonly Finding[] =>
  names.slice(1).flatMap((name, i): readonly Finding[] => {
    const before = names[i] ?? '';
    const order = compareEditions(before, name);
    if (order < 0) return [];
    const message =
      order === 0 && before === name
        ? `"${name}" is there twice`
        : `"${before}" stands before "${name}", and is not the earlier one: oldest first, numbers by their value`;
    return [{ path: PLACE, message }];
  });

/** The editions of an API as data, and what is wrong with them. */
export const editionPlans = (
  said: readonly EditionOption[],
): { readonly editions: readonly EditionPlan[]; readonly findings: readonly Finding[] } => {
  const findings: Finding[] = [];
  const editions = said.map((option): EditionPlan => {
    const { name, deprecated } =
      typeof option === 'string' ? { name: option, deprecated: undefined } : option;
    const message = 'a name is letters, digits, dots, dashes and underscores, 64 at most: 2026-05';
    if (!EDITION_NAME.test(name)) findings.push({ path: `${PLACE} ${JSON.stringify(name)}`, message });
    const notice = deprecated === undefined ? null : noticeOf(deprecated);
    if (notice instanceof Broken) findings.push(...notice.findings(`${PLACE} ${name}`));
    return freeze({ name, deprecated: notice instanceof Broken ? null : notice });
  });
  findings.push(...orderFindings(editions.map(({ name }) => name)));
  return { editions: freeze(editions), findings };
};

/** The editions that conditions are about, with the places at which they are. */
export type EditionsMet = Map<string, Set<string>>;

/** Settles what is declared at a place for an edition, and notes the editions that it names. */
export const settledAt = <T>(
  place: string,
  edition: string | undefined,
  editions: EditionsMet,
  settle: (here: Here) => T,
): T => {
  const met = new Set<string>();
  const settled = settle({ edition, met });
  for (const name of met) editions.set(name, (editions.get(name) ?? new Set()).add(place));
  return settled;
};

/** Conditions on editions that the API does not have, at each place. */
export const unknownEditions = (met: EditionsMet, editions: readonly EditionPlan[]): readonly Finding[] => {
  const names = editions.map(({ name }) => name);
  return [...met]
    .filter(([name]) => !names.includes(name))
    .flatMap(([name, places]) => {
      const there = names.length === 0 ? ' The API declares none: editions: [...]' : didYouMean(name, names);
      return [...places].map((path) => ({ path, message: `there is no edition "${name}".${there}` }));
    });
};
