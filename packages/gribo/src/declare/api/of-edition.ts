import { GriboError } from '../../errors/gribo-error.js';
import type { ApiPlan } from '../../plan/api-plan.js';
import { editionsOf, inEdition } from '../../plan/editions-of.js';
import { freeze } from '../../util/freeze.js';
import { keptBy } from '../../util/kept-by.js';
import { didYouMean } from '../../util/nearest.js';

/** An edition without the others: the same each time, for what is kept of it is found again. */
const alone = keptBy(
  (plan: ApiPlan): ApiPlan => (plan.earlier.length === 0 ? plan : freeze({ ...plan, earlier: freeze([]) })),
);

/**
 * An API as it is in one edition, for what takes an API: its contract, its document, a review, a comparison.
 *
 * @param api the API
 * @param edition the name of one of its editions
 * @returns the API as if that edition had been declared alone
 * @throws {GriboError} `UNKNOWN` where it has no such edition
 * @example
 * contractOf(ofEdition(harbour, '2025-11')).edition // => '2025-11'
 */
export const ofEdition = <P extends { readonly plan: ApiPlan }>(api: P, edition: string): P => {
  const plan = inEdition(api.plan, edition);
  if (plan !== undefined) return freeze({ ...api, plan: alone(plan) });
  const names = editionsOf(api.plan).flatMap((one) => one.edition?.name ?? []);
  const there =
    names.length === 0
      ? ' The API has none.'
      : didYouMean(edition, names) || ` There are: ${names.join(', ')}.`;
  throw new GriboError('UNKNOWN', 'edition', `there is no edition "${edition}".${there}`);
};
