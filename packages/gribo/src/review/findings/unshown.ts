import type { EntityPlan } from '../../plan/entity-plan.js';
import { columnOf, referring } from '../column-flows.js';
import type { FindingRule, Found, ReviewContext } from '../finding.js';

/** Columns that no response shows and no request sets: forgotten, or left out for a reason. */
const find = ({ entities, model, flows }: ReviewContext): readonly Found[] => {
  const used = new Set([...flows.map(columnOf), ...referring(model)]);
  return entities.flatMap((entity): readonly Found[] => {
    if (!flows.some((flow) => flow.entity === entity.name)) return [unshownEntity(entity)];
    return entity.columns
      .map(({ name, sealed }) => ({ place: `${entity.name}.${name}`, sealed }))
      .filter(({ place, sealed }) => sealed === null && !used.has(place))
      .map(({ place }) => ({ place, message: 'No response shows it, and no request sets it.' }));
  });
};

const unshownEntity = ({ name }: EntityPlan): Found => ({
  severity: 'note',
  place: name,
  message: 'No endpoint shows or sets anything of it.',
  advice: 'Where it only joins others, or is not for the API, there is nothing to do.',
});

export const unshown: FindingRule = {
  code: 'unshown',
  severity: 'warning',
  editions: 'newest',
  rule: 'A column is neither shown nor set.',
  advice: 'Show it, seal it, or accept this with the reason why it stays inside.',
  find: find,
};
