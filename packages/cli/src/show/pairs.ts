import type { ColumnPlan, EntityPlan, LinkPlan, ResolvedField, ResolvedNode, ResolvedShape } from 'gribo/kit';

/** What became of a stored value, or where a member came from. */
export type Mark =
  | 'kept'
  | 'renamed'
  | 'flattened'
  | 'converted'
  | 'computed'
  | 'nested'
  | 'constant'
  | 'unsealed'
  | 'dropped'
  | 'sealed';

/** One line of the comparison: a stored value, a member, or both. */
export interface Pair {
  readonly mark: Mark;
  /** Where the stored value is: `['operator', 'name']`; null for a member without one. */
  readonly from: readonly (string | number)[] | null;
  /** Where the member is: `['operatorName']`; null for a value that does not go out. */
  readonly to: readonly (string | number)[] | null;
  /** The label of the column's seal. */
  readonly seal: string | null;
  /** A line about a whole row or list: shown as a count, followed by its members. */
  readonly whole: 'row' | 'rows' | null;
}

/** Stands for the place of a row that was filtered or sorted: which one it is cannot be told. */
export const REORDERED = '…';

type Path = readonly (string | number)[];

type Value = Extract<
  ResolvedNode,
  { kind: 'column' | 'fact' | 'derived' | 'converted' | 'constant' | 'figure' }
>;

const isColumn = (node: Value): node is Extract<Value, { kind: 'column' }> => node.kind === 'column';

const namesOf = (path: readonly LinkPlan[]): string[] => path.map((link) => link.name);

/** Every column that a value is made from, with the way to it. */
const columnsIn = (node: Value): { readonly path: Path; readonly column: ColumnPlan }[] => {
  if (isColumn(node)) return [{ path: namesOf(node.path), column: node.column }];
  if (node.kind === 'converted') return columnsIn(node.input);
  if (node.kind === 'derived') return node.inputs.flatMap(columnsIn);
  return [];
};

const markOf = (node: Value, seal: string | null, inside: Path, to: Path): Mark => {
  if (node.kind === 'constant') return 'constant';
  if (node.kind === 'fact') return 'computed';
  if (node.kind === 'derived' || node.kind === 'figure') return 'computed';
  if (node.kind === 'converted') return 'converted';
  if (seal !== null) return 'unsealed';
  if (node.path.length > 0) return 'flattened';
  const isSamePlace = to.length === inside.length + 1 && to.at(-1) === node.column.name;
  return isSamePlace ? 'kept' : 'renamed';
};

/** Pairs the members of a response with the stored values behind them. */
class Pairing {
  readonly pairs: Pair[] = [];
  /** Columns of the outermost row that go out in some form, by name. */
  readonly used = new Set<string>();

  shape(shape: ResolvedShape, from: Path, to: Path): void {
    this.#fields(shape.fields, from, to, to);
  }

  #fields(fields: readonly ResolvedField[], from: Path, inside: Path, to: Path): void {
    for (const field of fields) this.#node(field.node, from, inside, [...to, field.name]);
  }

  #node(node: ResolvedNode, from: Path, inside: Path, to: Path): void {
    switch (node.kind) {
      case 'group':
        return this.#fields(node.fields, from, inside, to);
      case 'nested': {
        const at = [...from, ...namesOf(node.path)];
        if (node.path.length > 0) this.#whole('row', at, to);
        return this.shape(node.shape, at, to);
      }
      case 'nestedList':
      case 'first': {
        const at = [...from, ...namesOf(node.path), node.link.name];
        this.#whole(node.kind === 'first' ? 'row' : 'rows', at, to);
        const isAsStored = node.selection.where.length + node.selection.sort.length === 0;
        const firstRow = isAsStored ? 0 : REORDERED;
        return this.shape(node.shape, [...at, firstRow], node.kind === 'first' ? to : [...to, 0]);
      }
      case 'figure':
      case 'fact':
      case 'column':
      case 'derived':
      case 'converted':
      case 'constant':
        return this.#value(node, from, inside, to);
      default:
        return node satisfies never;
    }
  }

  #whole(whole: 'row' | 'rows', from: Path, to: Path): void {
    this.pairs.push({ mark: 'nested', from, to, seal: null, whole });
  }

  #value(node: Value, from: Path, inside: Path, to: Path): void {
    const columns = columnsIn(node);
    if (from.length === 0) {
      for (const { path, column } of columns) if (path.length === 0) this.used.add(column.name);
    }
    const [only] = columns;
    const seal = columns.map(({ column }) => column.sealed).find((label) => label !== null) ?? null;
    const link = node.kind === 'figure' ? [...from, ...namesOf(node.path), node.link.name] : null;
    const source = only === undefined ? link : [...from, ...only.path, only.column.name];
    this.pairs.push({ mark: markOf(node, seal, inside, to), from: source, to, seal, whole: null });
    for (const { path, column } of columns.slice(1)) {
      const more = [...from, ...path, column.name];
      this.pairs.push({ mark: 'computed', from: more, to: null, seal: column.sealed, whole: null });
    }
  }
}

/** The members of a response beside what they came from, then what does not go out. */
export const pairsOf = (shape: ResolvedShape, entity: EntityPlan): readonly Pair[] => {
  const pairing = new Pairing();
  pairing.shape(shape, [], []);
  const left = entity.columns.filter((column) => !pairing.used.has(column.name));
  const leftOut = left.map((column): Pair => {
    const mark = column.sealed === null ? 'dropped' : 'sealed';
    return { mark, from: [column.name], to: null, seal: column.sealed, whole: null };
  });
  return [...pairing.pairs, ...leftOut];
};
