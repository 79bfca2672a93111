import type { EntityPlan } from '../../plan/entity-plan.js';
import type { LinkedEntities } from '../../plan/linked-entity.js';
import type { ReviewFinding } from '../finding.js';
import type { Flow } from '../lineage/lineage.js';

const placeOf = ({ entity, column }: Pick<Flow, 'entity' | 'column'>): string => `${entity}.${column}`;

const isShown = ({ kind }: Flow): boolean => kind === 'sent' || kind === 'converted' || kind === 'computed';

const nameOf = (audience: string | null): string => audience ?? 'callers of no audience';

const unique = <T>(all: readonly T[]): readonly T[] => [...new Set(all)];

/** Some of many names: the rest is counted. */
const some = (names: readonly string[]): string =>
  names.length <= 4 ? names.join(', ') : `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;

/** Sealed columns that get out, and for whom. What is masked stays unknown. */
export const checkSeals = (flows: readonly Flow[]): readonly ReviewFinding[] => {
  const out = flows.filter((flow) => flow.sealed !== null && isShown(flow) && !flow.lifted);
  return unique(out.map(placeOf)).map((place) => {
    const found = out.filter((flow) => placeOf(flow) === place);
    const whom = unique(found.flatMap(({ audiences }) => audiences)).map(nameOf);
    const where = unique(found.map(({ endpoint }) => endpoint));
    return {
      code: 'unsealed',
      severity: 'note',
      place,
      message: `It is sealed (${found[0]?.sealed}), and goes to ${whom.join(', ')} at ${some(where)}.`,
      advice: 'See that each of them may know it; gribo trace shows every way out.',
    };
  });
};

/** The columns that hold the keys of other rows: links show what is behind them. */
const referring = (model: LinkedEntities): ReadonlySet<string> => {
  const links = Object.values(model).flatMap((linked) => [...linked.links.values()]);
  const toOne = links.filter(({ kind }) => kind === 'toOne');
  return new Set(toOne.flatMap(({ owner, from }) => from.map((name) => `${owner}.${name}`)));
};

/** Columns that no response shows and no request sets: forgotten, or left out for a reason. */
export const checkColumns = (
  entities: readonly EntityPlan[],
  model: LinkedEntities,
  flows: readonly Flow[],
): readonly ReviewFinding[] => {
  const used = new Set(flows.map(placeOf));
  const references = referring(model);
  return entities.flatMap((entity): readonly ReviewFinding[] => {
    if (!flows.some((flow) => flow.entity === entity.name)) return [unshownEntity(entity)];
    return entity.columns
      .filter(({ sealed }) => sealed === null)
      .filter(({ name }) => !references.has(`${entity.name}.${name}`) && !used.has(`${entity.name}.${name}`))
      .map(({ name }) => ({
        code: 'unshown',
        severity: 'warning',
        place: `${entity.name}.${name}`,
        message: 'No response shows it, and no request sets it.',
        advice: 'Show it, seal it, or accept this with the reason why it stays inside.',
      }));
  });
};

const unshownEntity = ({ name }: EntityPlan): ReviewFinding => ({
  code: 'unshown',
  severity: 'note',
  place: name,
  message: 'No endpoint shows or sets anything of it.',
  advice: 'Where it only joins others, or is not for the API, there is nothing to do.',
});

/** Columns that requests set and no response shows. */
export const checkWriteOnly = (model: LinkedEntities, flows: readonly Flow[]): readonly ReviewFinding[] => {
  const known = flows.filter((flow) => flow.kind !== 'set').map(placeOf);
  const shown = new Set([...known, ...referring(model)]);
  const set = flows.filter((flow) => flow.kind === 'set' && !shown.has(placeOf(flow)));
  return unique(set.map(placeOf)).map((place) => {
    const found = set.filter((flow) => placeOf(flow) === place);
    const isSealed = found[0]?.sealed != null;
    const where = unique(found.map(({ endpoint, member }) => `${endpoint}/${member}`));
    return {
      code: 'write-only',
      severity: isSealed ? 'note' : 'warning',
      place,
      message: `${some(where)} ${where.length === 1 ? 'sets' : 'set'} it, and no response shows it.`,
      advice: isSealed
        ? 'It is sealed: that may be just right.'
        : 'Show it, so that clients can read what they wrote, or do not take it.',
    };
  });
};
