import { type BodyLimits, pointerPart } from 'gribo';
import { type InputField, type InputPlan, ParseFailure, parseJson } from 'gribo/kit';
import { MalformedBody } from './format.js';

type Members = Record<string, unknown>;

/** The rows of a nested input, and the values of an array, are JSON text in one field, as in a cell of CSV. */
const parsedCell = (name: string, text: string, limits: BodyLimits): unknown => {
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

/** How cells are taken. */
interface Taking {
  readonly limits: BodyLimits;
  /** Whether an empty text is nothing where there may be none: a form has no other way to say it. */
  readonly emptyIsNull: boolean;
}

/** Takes the fields of an input out of the cells; what is left is unknown. */
const take = (fields: readonly InputField[], prefix: string, cells: Cells, taking: Taking): Members => {
  const made = Object.create(null) as Members;
  for (const { name, node } of fields) {
    const full = prefix + name;
    const text = cells.get(full);
    if (node.kind === 'set') {
      const isNothing = text === null || (text === '' && taking.emptyIsNull);
      // Nothing is null where that may be, and anywhere else it is as if the member were left out.
      if (isNothing && node.column.nullable) made[name] = null;
      else if (text != null)
        made[name] = node.column.type.kind === 'array' ? parsedCell(full, text, taking.limits) : text;
    } else if (node.kind === 'nestedInput' && node.link.kind === 'toMany') {
      if (text != null) made[name] = parsedCell(full, text, taking.limits);
    } else if (node.kind === 'nestedInput' && text != null) {
      // In a form, what is no text may be JSON.
      made[name] = parsedCell(full, text, taking.limits);
    } else {
      const inner = node.kind === 'inputGroup' ? node.fields : node.input.fields;
      const members = take(inner, `${full}.`, cells, taking);
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
export const flatMembers = (plan: InputPlan, cells: Cells, taking: Taking): Members => {
  const members = take(plan.fields, '', cells, taking);
  for (const [name, value] of cells) members[name] = value;
  return members;
};
