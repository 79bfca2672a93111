import { GriboError } from '../../errors/gribo-error.js';
import { editionsOf } from '../../plan/editions-of.js';
import type { Situation } from '../../plan/situation.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import type { AnyApi, AudienceIn, EditionIn, NameIn } from './api.js';
import { ofEdition } from './of-edition.js';

/** A situation at an API, by the names that it has. */
export interface ApiSituation<P extends AnyApi> extends Omit<Situation, 'endpoint' | 'audience' | 'edition'> {
  /** The edition; left out: the newest. */
  readonly edition?: EditionIn<P>;
  /** The endpoint, by its full name. */
  readonly endpoint?: NameIn<P>;
  /** Whom it is for; null, as where it is left out: a caller of no audience. */
  readonly audience?: AudienceIn<P> | null;
}

/**
 * A situation at an API, for `writer`, `loadPlan` and the like. A body by itself knows the audiences and endpoints that
 * it differs for; the API knows all of them.
 *
 * @param api the API
 * @param situation `endpoint`, `audience`, `edition`, `asked` and `fields`, each of them optional
 * @returns the situation
 * @throws {GriboError} `UNKNOWN` where the API has no such endpoint, audience or edition
 * @example
 * writer(VesselDetail, situationOf(harbour, { endpoint: 'vessels.read', audience: 'public' }))
 */
export const situationOf = <P extends AnyApi>(api: P, situation: ApiSituation<P>): Situation => {
  // The names are those of the API to the compiler; here they are looked at whoever wrote them.
  const { audience = null, endpoint, edition }: Situation = situation;
  const { audiences } = api.plan;
  // Where none is named, what any of them has: whoever writes for all of them names no one.
  const plans = edition === undefined ? editionsOf(api.plan) : [ofEdition(api, edition).plan];
  const names = [...new Set(plans.flatMap((plan) => plan.endpoints.map(({ name }) => name)))];
  if (endpoint !== undefined && !names.includes(endpoint)) {
    const message = `no endpoint is called "${endpoint}".${didYouMean(endpoint, names)}`;
    throw new GriboError('UNKNOWN', 'endpoint', message);
  }
  if (audience !== null && !audiences.includes(audience)) {
    const message = `there is no audience "${audience}".${didYouMean(audience, audiences)}`;
    throw new GriboError('UNKNOWN', 'audience', message);
  }
  return freeze({ ...situation });
};
