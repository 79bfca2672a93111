import type { ValueNode } from '../../plan/declared.js';
import type { ResolvedField, ResolvedNode, ResolvedShape, RowCondition } from '../../plan/resolved.js';
import { valueType } from '../../plan/value-type.js';
import { setMember } from '../../util/set-member.js';
import { valueKind } from '../../values/kinds.js';
import { Misfit } from '../../values/misfit.js';
import { asRow, follow, type LooseRow, readAll, readValue, rowsOf } from '../read-value.js';

/** Makes the JSON-ready value of one row. */
export type MakeObject = (row: unknown) => unknown;

type Make = (row: LooseRow) => unknown;
type Test = (row: LooseRow) => boolean;

interface FieldMaker {
  readonly name: string;
  readonly segment: string;
  readonly test: Test | null;
  readonly unlessNull: boolean;
  readonly make: Make;
}

/** How a path shows a member: `.name`, or `["two words"]`. */
const segmentOf = (name: string): string =>
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
    const make: MakeObject = (row) => members(asRow(row));
    this.#shapes.set(shape, make);
    return make;
  }

  #members(fields: readonly ResolvedField[]): Make {
    const makers = fields.map((field) => this.#field(field));
    return (row) => {
      const made: Record<string, unknown> = {};
      let at = 0;
      try {
        for (; at < makers.length; at++) writeField(makers[at] as FieldMaker, row, made);
      } catch (error) {
        throw addSegment(error, makers[at]?.segment ?? '');
      }
      return made;
    };
  }

  #field({ name, condition, unlessNull, node }: ResolvedField): FieldMaker {
    const test = condition === null ? null : this.#test(condition);
    return { name, segment: segmentOf(name), test, unlessNull, make: this.#node(node) };
  }

  #node(node: ResolvedNode): Make {
    switch (node.kind) {
      case 'constant': {
        const text = JSON.stringify(node.value);
        return () => JSON.parse(text);
      }
      case 'group':
        return this.#members(node.fields);
      case 'nested': {
        const make = this.shape(node.shape);
        return (row) => {
          const at = follow(row, node.path);
          return at === null ? null : make(at);
        };
      }
      case 'nestedList':
        return this.#list(node);
      case 'first': {
        const list = this.#list({ ...node, kind: 'nestedList', selection: { ...node.selection, limit: 1 } });
        return (row) => (list(row) as unknown[] | null)?.[0] ?? null;
      }
      default: {
        const read = readValue(node satisfies ValueNode);
        const { json } = valueKind(valueType(node));
        if (json === null) return read;
        return (row) => {
          const value = read(row);
          // What was read is accepted: of the type that this form is for.
          return value === null ? null : json.ready(value as never);
        };
      }
    }
  }

  #list(node: Extract<ResolvedNode, { kind: 'nestedList' }>): Make {
    const make = this.shape(node.shape);
    return (row) => {
      const at = follow(row, node.path);
      return at === null ? null : makeAll(rowsOf(at, node.link, node.selection), make);
    };
  }

  #test(condition: RowCondition): Test {
    switch (condition.kind) {
      case 'holds': {
        const inputs = readAll(condition.inputs);
        return (row) => {
          if (condition.guard.length > 0 && follow(row, condition.guard) === null) return false;
          return verdictOf(condition.test, inputs(row));
        };
      }
      case 'asked':
        // Of what is left open nothing is asked.
        return () => false;
      case 'all': {
        const tests = condition.of.map((part) => this.#test(part));
        return (row) => tests.every((test) => test(row));
      }
      case 'any': {
        const tests = condition.of.map((part) => this.#test(part));
        return (row) => tests.some((test) => test(row));
      }
      case 'not': {
        const test = this.#test(condition.of);
        return (row) => !test(row);
      }
      default:
        return condition satisfies never;
    }
  }
}

const verdictOf = (test: (...inputs: never[]) => unknown, inputs: never[]): boolean => {
  let verdict: unknown;
  try {
    verdict = test(...inputs);
  } catch {
    // What it threw may show a sealed value, so it is not repeated.
    throw new Misfit('ROW_FUNCTION', 'a condition to be tested', undefined, ': its function threw');
  }
  if (typeof verdict === 'boolean') return verdict;
  throw new Misfit('ROW_FUNCTION', 'a condition to be true or false', verdict);
};

const writeField = (maker: FieldMaker, row: LooseRow, made: Record<string, unknown>): void => {
  if (maker.test !== null && !maker.test(row)) return;
  const value = maker.make(row);
  if (value !== null || !maker.unlessNull) setMember(made, maker.name, value);
};

/** The values of all rows, in order; what is wrong with one says which. */
export const makeAll = (rows: ArrayLike<unknown>, make: MakeObject): unknown[] => {
  const made: unknown[] = [];
  let at = 0;
  try {
    for (; at < rows.length; at++) made.push(make(rows[at]));
  } catch (error) {
    throw addSegment(error, `[${at}]`);
  }
  return made;
};
