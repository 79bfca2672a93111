import type { ApiPlan, EndpointPlan } from '../plan/api-plan.js';
import { audiencesAt } from '../plan/audiences-at.js';
import type { StoreCondition } from '../plan/condition.js';
import type { BodyPlan } from '../plan/declared.js';
import { dottedName } from '../plan/dotted-name.js';
import type { ColumnPlan, LinkPlan } from '../plan/entity-plan.js';
import { isNever } from '../plan/joined.js';
import { walkResolved } from '../plan/walk-resolved.js';
import { resolveBody } from '../resolve/resolve-body.js';
import { settledQuery } from '../resolve/settle-query.js';

/** What would tell callers of an audience about a column that they are never shown. */
export interface Unseen {
  readonly kind: 'filter' | 'sort' | 'order' | 'nested';
  /** The parameter, or the member whose rows are put in order. */
  readonly name: string;
  readonly column: string;
  readonly audience: string | null;
}

interface Looked {
  readonly path: readonly LinkPlan[];
  readonly column: ColumnPlan;
  readonly shown: StoreCondition | null;
}

const isUnseen = ({ shown }: Looked): boolean => shown !== null && isNever(shown);

/** The orders of nested rows. */
const unseenWithin = (returns: BodyPlan, endpoint: string, audience: string | null): Unseen[] => {
  const found: Unseen[] = [];
  walkResolved(resolveBody(returns, { endpoint, audience }).body.shape, {
    selection: ({ sort }, member) => {
      for (const key of sort.filter(isUnseen))
        found.push({ kind: 'nested', name: member, column: dottedName(key.path, key.column), audience });
    },
  });
  return found;
};

/** Everything at an endpoint that would tell somebody of what they are not shown. */
export const unseenAt = (endpoint: EndpointPlan, api: Pick<ApiPlan, 'audiences'>): readonly Unseen[] =>
  audiencesAt(endpoint, api).flatMap((audience): Unseen[] => {
    const { filters, sort, order } = settledQuery(endpoint, audience);
    const told = (kind: Unseen['kind'], keys: readonly (Looked & { readonly name?: string })[]): Unseen[] =>
      keys
        .filter(isUnseen)
        .map((key) => ({ kind, name: key.name ?? '', column: dottedName(key.path, key.column), audience }));
    const { returns, name } = endpoint;
    return [
      ...told('filter', filters),
      ...told('sort', sort),
      ...told('order', order),
      ...(returns === null ? [] : unseenWithin(returns, name, audience)),
    ];
  });
