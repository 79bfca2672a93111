import type { Outcome } from './outcome.js';
import { requests } from './requests.js';
import { type Serializers, standAlone } from './serializers.js';
import { readers, writers } from './values.js';

/** What was done, by part. */
export type Outcomes = Readonly<
  Record<'requests' | 'writers' | 'readers' | 'serializers', readonly Outcome[]>
>;

/**
 * Everything that a runtime is tried with, in one go.
 *
 * @param serializers what `gribo build` made
 * @returns what came of each, to be compared with what came elsewhere
 */
export const smoke = async (serializers: Serializers): Promise<Outcomes> => ({
  requests: await requests(),
  writers: await writers(),
  readers: await readers(),
  serializers: await standAlone(serializers),
});
