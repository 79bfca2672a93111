import type { ColumnPlan, EntityPlan } from 'gribo';
import type { KeyValue } from './config.js';
import { Mistake } from './mistake.js';

const parsePart = (column: ColumnPlan, text: string): KeyValue => {
  const wrong = (wanted: string): Mistake =>
    new Mistake(`The key ${column.name} is ${wanted}, not "${text}".`);
  switch (column.type.kind) {
    case 'integer': {
      if (!/^-?\d{1,15}$/.test(text)) throw wrong('a whole number');
      return Number(text);
    }
    case 'bigint':
      if (!/^-?\d+$/.test(text)) throw wrong('a whole number');
      return BigInt(text);
    case 'uuid':
      if (!/^[\da-f]{8}(-[\da-f]{4}){3}-[\da-f]{12}$/i.test(text)) throw wrong('a UUID');
      return text;
    default:
      return text;
  }
};

/** Reads `--id`: one value for each key column, separated by commas where there are several. */
export const parseKey = (entity: EntityPlan, text: string): KeyValue[] => {
  const parts = entity.key.length === 1 ? [text] : text.split(',');
  if (parts.length !== entity.key.length) {
    throw new Mistake(
      `The key of ${entity.name} is ${entity.key.join(',')}: give ${entity.key.length} values, as in --id a,b`,
    );
  }
  return entity.key.map((name, i) => {
    const column = entity.columns.find((candidate) => candidate.name === name);
    const part = parts[i] ?? '';
    return column === undefined ? part : parsePart(column, part);
  });
};
