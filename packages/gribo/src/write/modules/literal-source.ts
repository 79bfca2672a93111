import type { SourceWriter } from '../../codegen/source-writer.js';
import type { ColumnNode, Figure, ListSelection, Operand, StoreCondition } from '../../plan/condition.js';
import type { ColumnPlan, LinkPlan } from '../../plan/entity-plan.js';

/** Finds the name under which a module knows a function of the user's. */
export type NameFunction = (value: unknown) => string;

/** The source of a plain value: data of plans, with dates, patterns and bytes in it. */
export const literalSource = (out: SourceWriter, value: unknown, nameOf: NameFunction): string => {
  const inner = (part: unknown): string => literalSource(out, part, nameOf);
  switch (typeof value) {
    case 'string':
      return out.quoted(value);
    case 'bigint':
      return `${value}n`;
    case 'function':
      return nameOf(value);
    case 'undefined':
      return 'undefined';
    case 'number':
    case 'boolean':
      return Object.is(value, -0) ? '-0' : String(value);
    default:
      break;
  }
  if (value === null) return 'null';
  if (value instanceof Date) return `new Date(${value.getTime()})`;
  if (value instanceof RegExp) return `new RegExp(${out.quoted(value.source)},${out.quoted(value.flags)})`;
  if (value instanceof Uint8Array) return `Uint8Array.of(${Array.from(value).join()})`;
  if (Array.isArray(value)) return `[${value.map(inner).join()}]`;
  const members = Object.entries(value as object).map(
    ([name, member]) => `[${out.quoted(name)}]:${inner(member)}`,
  );
  return `{${members.join()}}`;
};

/** What reading a column needs to know of it. */
const columnData = ({ name, type, nullable, sealed, via }: ColumnPlan): object => ({
  name,
  type,
  nullable,
  sealed,
  via,
});

/** What finding and counting the rows behind a link needs to know of it. */
export const linkData = ({ name, kind, owner, nullable, target }: LinkPlan): object => ({
  name,
  kind,
  owner,
  nullable,
  target: { name: target.name },
});

/** What a figure needs to know of the column that it is made of. */
export const figureData = ({ how, column, yields, look }: Figure): object => ({
  how,
  column: columnData(column),
  yields,
  look,
});

const columnNode = ({ path, column }: Pick<ColumnNode, 'path' | 'column'>): object => ({
  kind: 'column',
  path: path.map(linkData),
  column: columnData(column),
});

const operandData = (operand: Operand): object => (operand.kind === 'column' ? columnNode(operand) : operand);

const conditionData = (condition: StoreCondition): object => {
  switch (condition.kind) {
    case 'compares':
      return { ...condition, left: columnNode(condition.left), right: operandData(condition.right) };
    case 'thereIs': {
      const { kind, path, link, selection } = condition;
      const where = selectionData(selection);
      return { kind, path: path.map(linkData), link: linkData(link), selection: where, middle: [] };
    }
    case 'all':
    case 'any':
      return { kind: condition.kind, of: condition.of.map(conditionData) };
    case 'not':
      return { kind: 'not', of: conditionData(condition.of) };
    default:
      return condition satisfies never;
  }
};

/** A selection without what only stores need to know. */
export const selectionData = ({ where, sort, limit, name, pick }: ListSelection): object => ({
  where: where.map(conditionData),
  sort: sort.map(({ path, column, descending, shown }) => ({
    ...columnNode({ path, column }),
    descending,
    shown: shown === null ? null : conditionData(shown),
  })),
  limit,
  name,
  pick,
});
