import type { ResolvedBody, ResolvedField, ResolvedNode, ResolvedShape } from 'gribo/kit';
import type { AnswerLine } from './answer-line.js';
import { isObject, valueKind } from './value-kind.js';

type Path = readonly (string | number)[];

/** What a validator said of values, by their JSON Pointers. */
export type Wrongs = ReadonlyMap<string, string>;

const LONGEST = 40;

const shown = (value: unknown): string => {
  const text = JSON.stringify(value) ?? 'nothing';
  return text.length > LONGEST ? `${text.slice(0, LONGEST - 1)}…` : text;
};

/** RFC 6901, section 3. */
const pointerOf = (path: Path): string =>
  path.map((part) => `/${String(part).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

/** Where the value of a member comes from. */
const sourceOf = (node: ResolvedNode, entity: string): string => {
  switch (node.kind) {
    case 'column':
      return [entity, ...node.path.map(({ name }) => name), node.column.name].join('.');
    case 'converted':
      return `${sourceOf(node.input, entity)}, converted`;
    case 'fact':
      return `caller.${node.fact.name}`;
    case 'derived':
      return 'computed';
    case 'figure':
      return `${node.of?.how ?? 'count'} of ${node.link.name}`;
    case 'constant':
      return 'constant';
    case 'group':
      return 'a group';
    case 'nested':
    case 'first':
      return node.shape.name;
    case 'nestedList':
      return `a list of ${node.shape.name}`;
  }
};

/** Walks an answer and what is declared side by side. */
class Comparing {
  readonly lines: AnswerLine[] = [];
  readonly #wrongs: Wrongs;

  constructor(wrongs: Wrongs) {
    this.#wrongs = wrongs;
  }

  row(shape: ResolvedShape, value: unknown, path: Path): void {
    if (!isObject(value)) return this.#add('wrong', path, shown(value), `expected an object, ${shape.name}`);
    this.#fields(shape, shape.fields, value, path);
    // What is not declared may be anything: its value is not repeated.
    const known = new Set(shape.fields.map(({ name }) => name));
    for (const name of Object.keys(value).filter((each) => !known.has(each)))
      this.#add('unknown', [...path, name], valueKind(value[name]), this.#unknown(shape, name));
  }

  rows(shape: ResolvedShape, value: unknown, path: Path): void {
    if (!Array.isArray(value))
      return this.#add('wrong', path, shown(value), `expected a list of ${shape.name}`);
    for (const [place, item] of value.entries()) this.row(shape, item, [...path, place]);
  }

  #unknown({ entity }: ResolvedShape, name: string): string {
    const column = entity.columns.find((each) => each.name === name || each.stored === name);
    if (column === undefined) return 'not declared here';
    const seal = column.sealed === null ? '' : `, sealed (${column.sealed})`;
    return `not declared here: ${entity.name}.${column.name}${seal}`;
  }

  #fields(
    shape: ResolvedShape,
    fields: readonly ResolvedField[],
    value: Record<string, unknown>,
    path: Path,
  ): void {
    for (const { name, node, condition, unlessNull } of fields) {
      const place = [...path, name];
      if (Object.hasOwn(value, name)) this.#member(shape, node, value[name], place);
      else if (condition === null && !unlessNull)
        this.#add('missing', place, '', sourceOf(node, shape.entity.name));
    }
  }

  #member(shape: ResolvedShape, node: ResolvedNode, value: unknown, path: Path): void {
    switch (node.kind) {
      case 'group':
        if (!isObject(value)) return this.#leaf(node, shape, value, path);
        this.#fields(shape, node.fields, value, path);
        for (const name of Object.keys(value).filter((each) =>
          node.fields.every((field) => field.name !== each),
        ))
          this.#add('unknown', [...path, name], valueKind(value[name]), this.#unknown(shape, name));
        return;
      case 'nested':
      case 'first':
        return value === null ? this.#leaf(node, shape, value, path) : this.row(node.shape, value, path);
      case 'nestedList':
        return value === null ? this.#leaf(node, shape, value, path) : this.rows(node.shape, value, path);
      default:
        return this.#leaf(node, shape, value, path);
    }
  }

  #leaf(node: ResolvedNode, { entity }: ResolvedShape, value: unknown, path: Path): void {
    const wrong = this.#wrongs.get(pointerOf(path));
    const declared = sourceOf(node, entity.name);
    // A test's output is read by many: what is sealed is not repeated in it.
    const came = node.kind === 'column' && node.column.sealed !== null ? valueKind(value) : shown(value);
    if (wrong === undefined) this.#add('right', path, came, declared);
    else this.#add('wrong', path, came, `${declared}: ${wrong}`);
  }

  #add(mark: AnswerLine['mark'], path: Path, came: string, declared: string): void {
    this.lines.push({ mark, path, came, declared });
  }
}

/** Every member of an answer beside what is declared of it, and those that are missing. */
export const compareAnswer = (body: ResolvedBody, value: unknown, wrongs: Wrongs): readonly AnswerLine[] => {
  const comparing = new Comparing(wrongs);
  if (body.kind === 'list') comparing.rows(body.shape, value, []);
  else comparing.row(body.shape, value, []);
  return comparing.lines;
};
