import type { SettledValue } from '../../plan/condition.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../../plan/resolved.js';
import { valueType } from '../../plan/value-type.js';
import { setMember } from '../../util/set-member.js';
import { valueKind } from '../../values/kinds.js';
import { Misfit } from '../../values/misfit.js';
import { asRow, follow, type LooseRow } from '../read-column.js';
import { type Facts, type Read, readCondition, readValue, rowsOf, type Test } from '../read-value.js';

/** Makes the JSON-ready value of one row. */
export type MakeObject = (row: unknown, facts: Facts) => unknown;

type Make = Read;

interface FieldMaker {
  readonly name: string;
  readonly segment: string;
  readonly test: Test | null;
  readonly unlessNull: boolean;
  readonly make: Make;
}

/** How a path shows a member: `.name`, or `["two words"]`. */
export const segmentOf = (name: string): string =>
  /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(name) ? `.${name}` : `[${JSON.stringify(name)}]`;

const addSegment = (error: unknown, segment: string): unknown =>
  error instanceof Misfit ? error.inside(segment) : error;

/** Closures for the shapes of one plan, made once for each. */
export class Interpreter {
  readonly #shapes = new Map<ResolvedShape, MakeObject>();

  shape(shape: ResolvedShape): MakeObject {
    const known = this.#shapes.get(shape);
    if (known !== undefined) return known;
    const members = this.#members(shape.fields);
    const make: MakeObject = (row, facts) => members(asRow(row), facts);
    this.#shapes.set(shape, make);
    return make;
  }

  #members(fields: readonly ResolvedField[]): Make {
    const makers = fields.map((field) => this.#field(field));
    return (row, facts) => {
      const made: Record<string, unknown> = {};
      let at = 0;
      try {
        for (; at < makers.length; at++) writeField(makers[at] as FieldMaker, row, facts, made);
      } catch (error) {
        throw addSegment(error, makers[at]?.segment ?? '');
      }
      return made;
    };
  }

  #field({ name, condition, unlessNull, node }: ResolvedField): FieldMaker {
    const test = condition === null ? null : readCondition(condition);
    return { name, segment: segmentOf(name), test, unlessNull, make: this.node(node) };
  }

  node(node: ResolvedNode): Make {
    switch (node.kind) {
      case 'constant': {
        const text = JSON.stringify(node.value);
        return () => JSON.parse(text);
      }
      case 'group':
        return this.#members(node.fields);
      case 'nested': {
        const make = this.shape(node.shape);
        return (row, facts) => {
          const at = follow(row, node.path);
          return at === null ? null : make(at, facts);
        };
      }
      case 'nestedList':
        return this.#list(node);
      case 'first': {
        const list = this.#list({ ...node, kind: 'nestedList', selection: { ...node.selection, limit: 1 } });
        return (row, facts) => (list(row, facts) as unknown[] | null)?.[0] ?? null;
      }
      default: {
        const read = readValue(node satisfies SettledValue);
        const type = valueType(node);
        const { json } = valueKind(type);
        if (json === undefined) return read;
        return (row, facts) => {
          const value = read(row, facts);
          // What was read is accepted: of the type that this form is for.
          return value === null ? null : json(value as never, type);
        };
      }
    }
  }

  #list(node: Extract<ResolvedNode, { kind: 'nestedList' }>): Make {
    const make = this.shape(node.shape);
    return (row, facts) => {
      const at = follow(row, node.path);
      return at === null ? null : makeAll(rowsOf(at, node.link, node.selection, facts), make, facts);
    };
  }
}

const writeField = (maker: FieldMaker, row: LooseRow, facts: Facts, made: Record<string, unknown>): void => {
  if (maker.test !== null && !maker.test(row, facts)) return;
  const value = maker.make(row, facts);
  if (value !== null || !maker.unlessNull) setMember(made, maker.name, value);
};

/** The values of all rows, in order; what is wrong with one says which. */
const makeAll = (rows: ArrayLike<unknown>, make: MakeObject, facts: Facts): unknown[] => {
  const made: unknown[] = [];
  let at = 0;
  try {
    for (; at < rows.length; at++) made.push(make(rows[at], facts));
  } catch (error) {
    throw addSegment(error, `[${at}]`);
  }
  return made;
};
