import { type EntityPlan, type KeyValue, sayWanted, valueFromText } from 'gribo/kit';
import { Mistake } from '../screen/mistake.js';

/** Reads `--id`: one value for each key column, separated by commas where there are several. */
export const parseKey = (
  entity: EntityPlan,
  text: string,
  names: readonly string[] = entity.key,
): KeyValue[] => {
  const parts = names.length === 1 ? [text] : text.split(',');
  if (parts.length !== names.length) {
    throw new Mistake(
      `The key of ${entity.name} is ${names.join(',')}: give ${names.length} values, as in --id a,b`,
    );
  }
  const columns = names.flatMap((name) => entity.columns.find((column) => column.name === name) ?? []);
  return columns.map((column, i) => {
    const part = parts[i] ?? '';
    const got = valueFromText(column, part);
    if (!got.ok)
      throw new Mistake(`The key ${column.name} is ${sayWanted(got.wanted, got.limits)}, not "${part}".`);
    // A key column holds what can be a key.
    return got.value as KeyValue;
  });
};
