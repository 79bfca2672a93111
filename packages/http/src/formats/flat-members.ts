import { type BodyLimits, pointerPart } from 'gribo';
import { type InputField, type InputPlan, ParseFailure, parseJson } from 'gribo/kit';
import { MalformedBody } from './format.js';

type Members = Record<string, unknown>;

/** The rows of a nested input are JSON text in one field, as in a cell of CSV. */
const parsedRows = (name: string, text: string, limits: BodyLimits): unknown => {
  try {
    return parseJson(text, limits);
  } catch (error) {
    if (!(error instanceof ParseFailure)) throw error;
    const { code, reason, pointer } = error.issue;
    const isTwice = code === 'syntax' && reason?.name === 'twice';
    if (isTwice) throw new MalformedBody({ name: 'twice' }, pointerPart(name) + pointer);
    throw new MalformedBody({ name: code === 'limit' ? 'items' : 'field' }, pointerPart(name));
  }
};

/** Texts by dotted names; null: the cell is there, and nothing is in it. */
export type Cells = Map<string, string | null>;

/** Takes the fields of an input out of the cells; what is left is unknown. */
const take = (fields: readonly InputField[], prefix: string, cells: Cells, limits: BodyLimits): Members => {
  const made = Object.create(null) as Members;
  for (const { name, node } of fields) {
    const full = prefix + name;
    const text = cells.get(full);
    if (node.kind === 'set') {
      // Nothing is null where that may be, and anywhere else it is as if the member were left out.
      if (text === null && node.column.nullable) made[name] = null;
      else if (text != null) made[name] = text;
    } else if (node.kind === 'nestedInput' && node.link.kind === 'toMany') {
      if (text != null) made[name] = parsedRows(full, text, limits);
    } else {
      const inner = node.kind === 'inputGroup' ? node.fields : node.input.fields;
      const members = take(inner, `${full}.`, cells, limits);
      if (Object.keys(members).length > 0) made[name] = members;
    }
    cells.delete(full);
  }
  return made;
};

/**
 * The members of a body whose groups and to-one rows are dotted names, and whose to-many rows are JSON text.
 *
 * @param cells what is known of them is taken out
 */
export const flatMembers = (plan: InputPlan, cells: Cells, limits: BodyLimits): Members => {
  const members = take(plan.fields, '', cells, limits);
  for (const [name, value] of cells) members[name] = value;
  return members;
};
