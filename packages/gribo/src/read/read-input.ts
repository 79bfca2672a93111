import type { ConversionPlan } from '../plan/conversion.js';
import type { ColumnPlan } from '../plan/entity-plan.js';
import type { InputField, InputNode, InputPlan } from '../plan/input-plan.js';
import { isWaivable } from '../plan/may-be-absent.js';
import { Enough } from '../util/enough.js';
import { nearest } from '../util/nearest.js';
import { ExactNumber } from '../values/exact-number.js';
import {
  type BareIssue,
  bareIssue,
  cameOf,
  type Issue,
  type IssueLimits,
  pointerPart,
  type SayIssue,
  spoken,
  type Wanted,
} from './issue.js';
import { readBack } from './read-back.js';
import { isWithin, stated, type ValuePolicies } from './read-values.js';
import { Refusal } from './refusal.js';
import { wantedBy } from './wanted-by.js';

export interface ReadPolicies extends ValuePolicies {
  /** What happens to members that the input does not have. */
  readonly unknown: 'refuse' | 'ignore';
  /** Null for a column that always has a value: an issue, or as if it were left out. */
  readonly nulls: 'refuse' | 'absent';
}

/**
 * The most issues that are told; a last one says that there are more.
 *
 * @example
 * MOST_ISSUES // => 100
 */
export const MOST_ISSUES = 100;

type Members = Readonly<Record<string, unknown>>;
type ChangeMap = Map<string, unknown>;

const isObject = (value: unknown): value is Members =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && !(value instanceof ExactNumber);

/** Reads one body by an input's plan, and gathers everything that is wrong with it. */
export class InputReading {
  readonly issues: Issue[] = [];
  readonly #policies: ReadPolicies;
  readonly #say: SayIssue;
  readonly #mostRows: number;
  #rows = 0;

  constructor(policies: ReadPolicies, say: SayIssue, mostRows: number) {
    this.#policies = policies;
    this.#say = say;
    this.#mostRows = mostRows;
  }

  /** The change that the body asks for; to be used only where there are no issues. */
  read(input: InputPlan, body: unknown): object {
    try {
      const change: ChangeMap = new Map();
      this.#members(input, input.fields, body, '', '', change);
      return inOrder(input.fields, change);
    } catch (error) {
      if (!(error instanceof Enough)) throw error;
      return {};
    }
  }

  #refuse(issue: BareIssue): void {
    if (this.issues.length === MOST_ISSUES) {
      this.#add(bareIssue('', 'limit', { limits: { issues: MOST_ISSUES } }));
      throw new Enough();
    }
    this.#add(issue);
  }

  #add(issue: BareIssue): void {
    this.issues.push(spoken(issue, this.#say));
  }

  /** Present members in the body's order, then those that are missing in the input's. */
  #members(
    input: InputPlan,
    fields: readonly InputField[],
    body: unknown,
    pointer: string,
    path: string,
    change: ChangeMap,
  ): void {
    if (!isObject(body)) {
      return this.#refuse(bareIssue(pointer, 'type', { wanted: 'object', came: cameOf(body) }));
    }
    const present = new Set<string>();
    const known = new Map(fields.map((field) => [field.name, field]));
    for (const name of Object.keys(body)) {
      const field = known.get(name);
      const at = pointer + pointerPart(name);
      if (field === undefined) this.#unknown(input, fields, name, at, path + name);
      // Null that counts as absent is looked at again below.
      else if (this.#member(input, field.node, body[name], at, `${path}${name}.`, change)) present.add(name);
    }
    for (const field of fields) {
      if (present.has(field.name) || input.amends) continue;
      this.#missing(input, field, pointer + pointerPart(field.name), `${path}${field.name}.`, change);
    }
  }

  #unknown(
    input: InputPlan,
    fields: readonly InputField[],
    name: string,
    pointer: string,
    path: string,
  ): void {
    if (input.fixed.some(({ member }) => member === path)) {
      return this.#refuse(bareIssue(pointer, 'fixed', { limits: { entity: input.entity.name } }));
    }
    if (this.#policies.unknown === 'ignore') return;
    const known = fields.map((field) => field.name);
    this.#refuse(bareIssue(pointer, 'unknown', { near: nearest(name, known) }));
  }

  #missing(input: InputPlan, field: InputField, pointer: string, path: string, change: ChangeMap): void {
    const { presence, node } = field;
    switch (presence.kind) {
      case 'optional':
        return;
      case 'preset':
        this.#member(input, node, presence.value, pointer, path, change);
        return;
      case 'required':
        if (isWaivable(node)) return this.#members(input, node.fields, {}, pointer, path, change);
        return this.#refuse(bareIssue(pointer, 'required', wantedOf(node)));
      default:
        return presence satisfies never;
    }
  }

  /** Reads a member that is there; false where it counts as absent. */
  #member(
    input: InputPlan,
    node: InputNode,
    value: unknown,
    pointer: string,
    path: string,
    change: ChangeMap,
  ): boolean {
    switch (node.kind) {
      case 'set':
        return this.#column(node.column, node.conversions, value, pointer, change);
      case 'inputGroup':
        if (value === null && this.#clear(node.fields, change)) return true;
        this.#members(input, node.fields, value, pointer, path, change);
        return true;
      case 'nestedInput':
        this.#nested(node, value, pointer, change);
        return true;
      default:
        return node satisfies never;
    }
  }

  /** Null for a group clears every column in it, where all of them may be null. */
  #clear(fields: readonly InputField[], change: ChangeMap): boolean {
    const columns = fields.map(({ node }) =>
      node.kind === 'set' && node.column.nullable ? node.column : null,
    );
    if (columns.includes(null)) return false;
    for (const column of columns) if (column !== null) change.set(column.name, null);
    return true;
  }

  #column(
    column: ColumnPlan,
    conversions: readonly ConversionPlan[],
    value: unknown,
    pointer: string,
    change: ChangeMap,
  ): boolean {
    if (value === null && column.nullable) {
      change.set(column.name, null);
      return true;
    }
    if (value === null && column.type.kind !== 'json') {
      if (this.#policies.nulls === 'absent') return false;
      this.#refuse(bareIssue(pointer, 'null', wantedOf({ kind: 'set', column, conversions })));
      return true;
    }
    const read = readBack(column.type, conversions, value, this.#policies);
    if (read instanceof Refusal) {
      const { code, wanted, limits, inside } = read;
      const came = cameOf(inside === null ? value : inside.value);
      this.#refuse(bareIssue(pointer + (inside?.at ?? ''), code, { wanted, limits, came }));
    } else change.set(column.name, read);
    return true;
  }

  #nested(
    { link: { kind, name }, input, min, max }: Extract<InputNode, { kind: 'nestedInput' }>,
    value: unknown,
    pointer: string,
    change: ChangeMap,
  ): void {
    const limits = { min, max };
    if (kind !== 'toMany') {
      change.set(name, this.#inner(input, value, pointer));
      return;
    }
    if (!Array.isArray(value)) {
      return this.#refuse(bareIssue(pointer, 'type', { wanted: 'array', came: cameOf(value) }));
    }
    if (!isWithin(value.length, limits.min, limits.max)) {
      const found = { wanted: 'array', limits: stated(limits), came: cameOf(value) } as const;
      return this.#refuse(bareIssue(pointer, 'length', found));
    }
    this.#rows += value.length;
    if (this.#rows > this.#mostRows) {
      this.#add(bareIssue(pointer, 'limit', { limits: { rows: this.#mostRows } }));
      throw new Enough();
    }
    change.set(
      name,
      value.map((item, index) => this.#inner(input, item, pointer + pointerPart(index))),
    );
  }

  #inner(input: InputPlan, value: unknown, pointer: string): object {
    const change: ChangeMap = new Map();
    this.#members(input, input.fields, value, pointer, '', change);
    return inOrder(input.fields, change);
  }
}

/** What the fields of an input set, in its own order, whatever the body's was. */
const targetsOf = (fields: readonly InputField[]): readonly string[] =>
  fields.flatMap(({ node }) => {
    if (node.kind === 'inputGroup') return targetsOf(node.fields);
    return [node.kind === 'set' ? node.column.name : node.link.name];
  });

const inOrder = (fields: readonly InputField[], change: ChangeMap): object =>
  Object.fromEntries(
    targetsOf(fields).flatMap((name) => (change.has(name) ? [[name, change.get(name)]] : [])),
  );

/** What would be right in the place of a member that is missing. */
const wantedOf = (node: InputNode): { readonly wanted: Wanted; readonly limits: IssueLimits } => {
  if (node.kind === 'inputGroup') return { wanted: 'object', limits: {} };
  if (node.kind === 'nestedInput')
    return { wanted: node.link.kind === 'toMany' ? 'array' : 'object', limits: {} };
  const { reads: type = node.column.type } = node.conversions[0] ?? {};
  return wantedBy(type) ?? { wanted: type.kind, limits: {} };
};
