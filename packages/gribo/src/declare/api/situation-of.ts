import { GriboError } from '../../errors/gribo-error.js';
import type { Situation } from '../../plan/situation.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import type { AnyApi, AudienceIn, NameIn } from './api.js';

/** A situation at an API, by the names that it has. */
export interface ApiSituation<P extends AnyApi> extends Omit<Situation, 'endpoint' | 'audience'> {
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
 * @param situation `endpoint`, `audience`, `asked` and `fields`, each of them optional
 * @returns the situation
 * @throws {GriboError} `UNKNOWN` where the API has no such endpoint or audience
 * @example
 * writer(VesselDetail, situationOf(harbour, { endpoint: 'vessels.read', audience: 'public' }))
 */
export const situationOf = <P extends AnyApi>(api: P, situation: ApiSituation<P>): Situation => {
  const { audiences, endpoints } = api.plan;
  // The names are those of the API to the compiler; here they are looked at whoever wrote them.
  const { audience = null, endpoint }: Situation = situation;
  const names = endpoints.map(({ name }) => name);
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
