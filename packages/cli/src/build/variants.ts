import { type Contract, contractOf, resolve, type Situation } from 'gribo';
import type { SendingEndpoint } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { fileName } from './output.js';

/** What an endpoint sends to the audiences that see the same. */
export interface Variant {
  readonly endpoint: SendingEndpoint;
  /** The name of its files: `vessels.read`, or `vessels.read.harbourMaster` where audiences differ. */
  readonly name: string;
  readonly situation: Situation;
  /** The name of its shape in the contract. */
  readonly shape: string;
  readonly many: boolean;
}

type Whom = Contract['endpoints'][number]['returns'];

/** What tells the files of audiences apart. */
export const suffixOf = (audiences: readonly (string | null)[]): string =>
  audiences.filter((name) => name !== null).join('-') || 'nobody';

const variantsOf = (endpoint: SendingEndpoint, returns: NonNullable<Whom>): readonly Variant[] =>
  returns.variants.map(({ audiences, shape }) => {
    const [audience = null] = audiences;
    const suffix = returns.variants.length === 1 ? '' : `.${suffixOf(audiences)}`;
    const situation = { endpoint: endpoint.name, audience };
    return { endpoint, name: fileName(endpoint.name + suffix), situation, shape, many: returns.many };
  });

/** Every body of an API, once for each group of audiences that sees the same. */
export const variants = ({ api }: GriboConfig): readonly Variant[] => {
  const contract = contractOf(api);
  return api.plan.endpoints.flatMap((endpoint, i) => {
    const returns = contract.endpoints[i]?.returns;
    return endpoint.returns === null || returns === undefined
      ? []
      : variantsOf({ ...endpoint, returns: endpoint.returns }, returns);
  });
};

/** Up to so many names, every set of them is written. */
const FEW = 3;

/** The sets of names that a body is written for: none, all sets where there are few, else each alone and all. */
const setsOf = (asks: readonly string[]): readonly (readonly string[])[] => {
  if (asks.length > FEW) return [[], ...asks.map((name) => [name]), asks];
  const sets: (readonly string[])[] = [[]];
  for (const name of asks) sets.push(...sets.map((set) => [...set, name]));
  return sets;
};

/** The same body for each set of names that can be asked for. */
export const askedVariants = (variant: Variant): readonly Variant[] => {
  const { asks } = resolve({ plan: variant.endpoint.returns }, variant.situation);
  return setsOf(asks).map((asked) => ({
    ...variant,
    name: asked.length === 0 ? variant.name : fileName(`${variant.name}.with-${asked.join('-')}`),
    situation: { ...variant.situation, asked },
  }));
};
