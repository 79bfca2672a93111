import { type AnyApi, memoryStore } from 'gribo';
import type {
  ApiPlan,
  ColumnPlan,
  EntityPlan,
  LinkPlan,
  ResolvedField,
  ResolvedNode,
  ResolvedShape,
  RowCondition,
  SettledValue,
  StoreCondition,
} from 'gribo/kit';
import { leavesOf } from '../../../gribo/src/plan/leaves-of.js';
import { resolveBody } from '../../../gribo/src/resolve/resolve-body.js';
import { rulesFor } from '../../../gribo/src/resolve/rules-for.js';
import { bindConditions } from '../../../gribo/src/rows/bind.js';
import { restrictedBy } from '../../../gribo/src/rows/restrict.js';
import { callId, stock } from '../../../gribo/src/testing/stock.js';
import { satisfies } from '../../../gribo/src/values/satisfies.js';
import type { Choose } from './random-office.js';

/*
 * The law of silence: what a caller may not see changes nothing of what it is answered. Here is what it may not see, found
 * without looking at filters, orders and cursors, and changes of it.
 */

export type Row = Record<string, unknown>;
export type Rows = Readonly<Record<string, readonly Row[]>>;

export interface Asker {
  readonly audience: 'agent' | 'office' | null;
  readonly operatorId: number | null;
  readonly year: number;
}

export const NOW = new Date('2026-04-15T00:00:00.000Z');

const pick = <T>(choose: Choose, from: readonly T[]): T => from[choose(from.length)] as T;

const NAMES = ['Anselma', 'Ostwick', 'tern', 'Tern', 'b'];

/** A value of a column: from few, so that rows tie. */
const VALUES: Readonly<Record<string, (choose: Choose) => unknown>> = {
  'operator.parentId': (choose) => pick(choose, [null, 1, 2]),
  'vessel.name': (choose) => pick(choose, NAMES),
  'vessel.callSign': (choose) => pick(choose, [null, 'MR1', 'MR2', '']),
  'vessel.kind': (choose) => pick(choose, ['bulk', 'tanker', 'tug']),
  'vessel.builtYear': (choose) => 1980 + choose(4),
  'vessel.tonnage': (choose) => `${choose(3)}00.5`,
  'vessel.draught': (choose) => choose(4),
  'vessel.active': (choose) => choose(2) === 0,
  'vessel.weight': (choose) => BigInt(choose(5)),
  'vessel.operatorId': (choose) => pick(choose, [null, 1, 2, 3]),
  'portCall.vesselId': (choose) => 1 + choose(5),
  'portCall.eta': (choose) => new Date(Date.UTC(2026, 2 + choose(4), 1, 6)),
  'portCall.status': (choose) => pick(choose, ['announced', 'berthed', 'sailed']),
  'portCall.remarks': (choose) => pick(choose, [null, 'r', 's']),
  'pilot.name': (choose) => pick(choose, NAMES),
};

const valueFor = (entity: string, name: string, choose: Choose): unknown =>
  VALUES[`${entity}.${name}`]?.(choose) ?? null;

const rowOf = (entity: keyof typeof stock, key: Row, choose: Choose): Row => ({
  ...Object.fromEntries(
    stock[entity].entity.columns.map(({ name }) => [name, valueFor(entity, name, choose)]),
  ),
  ...key,
});

const numbers = (many: number): number[] => Array.from({ length: many }, (_, i) => i + 1);

export const randomRows = (choose: Choose): Rows => ({
  operator: numbers(3).map((id) => ({
    ...rowOf('operator', { id }, choose),
    name: ['Ostwick', 'Lantern Bay', 'b'][id - 1],
    // Nobody is above themselves: rows are stored one after the other.
    parentId: id === 1 ? null : pick(choose, [null, 1]),
  })),
  vessel: numbers(5).map((id) => rowOf('vessel', { id }, choose)),
  portCall: numbers(6).map((n) => rowOf('portCall', { id: callId(n) }, choose)),
  pilot: numbers(3).map((id) => rowOf('pilot', { id }, choose)),
  pilotage: numbers(6).flatMap((n) =>
    numbers(3)
      .filter(() => choose(2) === 0)
      .map((pilotId) => ({ portCallId: callId(n), pilotId })),
  ),
});

const columnKey = (entity: EntityPlan, { name }: ColumnPlan): string => `${entity.name}.${name}`;

const ended = (entity: EntityPlan, path: readonly LinkPlan[]): EntityPlan => path.at(-1)?.target ?? entity;

/** What the bodies for a caller show, and what decides in them. */
class Looked {
  /** Columns that are shown, or decide, in some way that is not known row by row. */
  readonly fixed = new Set<string>();
  /** Columns that are shown as they are, with the conditions for it: null where there is none. */
  readonly shown = new Map<string, (RowCondition | null)[]>();
  /** Columns and entities that rules look at, whatever is hidden. */
  readonly ruled = new Set<string>();
  readonly #seen = new Set<ResolvedShape>();

  shape(shape: ResolvedShape): void {
    if (this.#seen.has(shape)) return;
    this.#seen.add(shape);
    this.#fields(shape.fields, shape.entity, null);
  }

  #fields(fields: readonly ResolvedField[], entity: EntityPlan, above: RowCondition | null): void {
    for (const { node, condition } of fields) {
      if (condition !== null) this.condition(condition, entity, this.fixed);
      const both: RowCondition | null =
        above !== null && condition !== null ? { kind: 'all', of: [above, condition] } : (above ?? condition);
      this.#node(node, entity, both);
    }
  }

  #node(node: ResolvedNode, entity: EntityPlan, condition: RowCondition | null): void {
    switch (node.kind) {
      case 'group':
        return this.#fields(node.fields, entity, condition);
      case 'nested':
        return this.shape(node.shape);
      case 'nestedList':
      case 'first':
        for (const part of node.selection.where) this.condition(part, node.link.target, this.fixed);
        return this.shape(node.shape);
      case 'column': {
        const key = columnKey(ended(entity, node.path), node.column);
        if (node.path.length > 0) this.fixed.add(key);
        else this.shown.set(key, [...(this.shown.get(key) ?? []), condition]);
        return;
      }
      default:
        return this.#value(node, entity);
    }
  }

  #value(node: SettledValue, entity: EntityPlan): void {
    if (node.kind === 'column') this.fixed.add(columnKey(ended(entity, node.path), node.column));
    if (node.kind === 'derived') for (const input of node.inputs) this.#value(input, entity);
    if (node.kind === 'converted') this.#value(node.input, entity);
    if (node.kind === 'figure' && node.of !== null)
      this.fixed.add(columnKey(node.link.target, node.of.column));
    if (node.kind === 'figure')
      for (const part of node.selection.where) this.condition(part, node.link.target, this.fixed);
  }

  condition(condition: RowCondition, entity: EntityPlan, into: Set<string>): void {
    for (const leaf of leavesOf(condition)) {
      if (leaf.kind === 'thereIs') {
        into.add(leaf.link.target.name);
        if (leaf.link.through !== null) into.add(leaf.link.through.entity.name);
        for (const part of leaf.selection.where) this.condition(part, leaf.link.target, into);
      }
      if (leaf.kind !== 'compares') continue;
      into.add(columnKey(ended(entity, leaf.left.path), leaf.left.column));
      for (const link of leaf.left.path) {
        into.add(link.target.name);
        for (const name of link.from) into.add(`${link.owner}.${name}`);
      }
      if (leaf.right.kind === 'column')
        into.add(columnKey(ended(entity, leaf.right.path), leaf.right.column));
    }
  }
}

const lookedAt = (api: ApiPlan, audience: string | null): Looked => {
  const looked = new Looked();
  for (const { returns, name, audiences } of api.endpoints) {
    if (returns === null || (audiences !== null && !audiences.includes(audience ?? ''))) continue;
    looked.shape(resolveBody(returns, { endpoint: name, audience, asked: ['more'] }).body.content);
    looked.shape(resolveBody(returns, { endpoint: name, audience }).body.content);
  }
  for (const { entity, see } of rulesFor(api, audience).values())
    if (see !== null) looked.condition(see, entity, looked.ruled);
  return looked;
};

/** Columns that hold rows together. */
const STRUCTURE = ['id', 'parentId', 'operatorId', 'vesselId', 'portCallId', 'pilotId'];
/** Columns that tell of others by a conflict only. */
const UNIQUE = ['operator.name'];

type EntityName = keyof typeof stock;

/** Changes what one caller may not see. */
export class Changing {
  readonly #asker: Asker;
  readonly #rows: Rows;
  readonly #looked: Looked;
  readonly #api: ApiPlan;
  readonly #choose: Choose;
  /** The rows with their links, as the store of them has them. */
  readonly #stored: ReadonlyMap<string, readonly Row[]>;

  constructor(
    api: AnyApi,
    asker: Asker,
    rows: Rows,
    stored: ReadonlyMap<string, readonly Row[]>,
    choose: Choose,
  ) {
    this.#api = api.plan;
    this.#asker = asker;
    this.#rows = rows;
    this.#stored = stored;
    this.#choose = choose;
    this.#looked = lookedAt(api.plan, asker.audience);
  }

  /** The rows with something else in what the caller may not see, and what was done; null where it sees everything. */
  change(): { readonly rows: Rows; readonly what: string } | null {
    const ways = [
      () => this.#crew(),
      () => this.#column(),
      () => this.#cell(),
      () => this.#hidden(),
      () => this.#add(),
      () => this.#remove(),
    ];
    const first = this.#choose(ways.length);
    for (let i = 0; i < ways.length; i++) {
      const made = ways[(first + i) % ways.length]?.() ?? null;
      if (made !== null) return made;
    }
    return null;
  }

  #bind(conditions: readonly StoreCondition[]): readonly StoreCondition[] {
    const { operatorId, year } = this.#asker;
    const facts: Record<string, unknown> = { operatorId, year, now: NOW };
    return bindConditions(conditions, ({ name }) => facts[name]);
  }

  /** Whether the rule of an entity lets the caller see a row. */
  #sees(entity: string, row: Row): boolean {
    const see = rulesFor(this.#api, this.#asker.audience).get(entity)?.see ?? null;
    return see === null || this.#bind([see]).every((condition) => satisfies(condition, row));
  }

  /** Whether a condition of a body holds in a row, as the caller sees it. */
  #holds(entity: string, condition: RowCondition, row: Row): boolean {
    const rules = rulesFor(this.#api, this.#asker.audience);
    // Random bodies have no conditions that are code, and nothing is left open.
    const within = restrictedBy(rules).where(entity, [condition as StoreCondition]);
    return this.#bind(within).every((part) => satisfies(part, row));
  }

  #entities(): EntityName[] {
    return (['operator', 'vessel', 'portCall', 'pilot'] as const).slice();
  }

  #replaced(entity: EntityName, at: number, name: string, what: string): { rows: Rows; what: string } | null {
    const value = valueFor(entity, name, this.#choose);
    const rows = this.#rows[entity] ?? [];
    const row = rows[at];
    if (row === undefined || row[name] === value) return null;
    const other = rows.map((one, i) => (i === at ? { ...one, [name]: value } : one));
    return {
      rows: { ...this.#rows, [entity]: other },
      what: `${what}: ${entity}[${at}].${name} = ${String(value)}`,
    };
  }

  #names(entity: EntityName): string[] {
    return stock[entity].entity.columns
      .map(({ name }) => name)
      .filter((name) => !STRUCTURE.includes(name) && !UNIQUE.includes(`${entity}.${name}`))
      .filter((name) => `${entity}.${name}` in VALUES);
  }

  /** A column that the caller is never shown. */
  #column() {
    const { fixed, shown, ruled } = this.#looked;
    const all = this.#entities().flatMap((entity) =>
      this.#names(entity)
        .filter(
          (name) =>
            ![fixed, ruled].some((set) => set.has(`${entity}.${name}`)) && !shown.has(`${entity}.${name}`),
        )
        .map((name) => [entity, name] as const),
    );
    if (all.length === 0) return null;
    const [entity, name] = pick(this.#choose, all);
    return this.#replaced(entity, this.#choose(this.#rows[entity]?.length ?? 1), name, 'never shown');
  }

  /** A value that a condition hides in one row. */
  #cell() {
    const { fixed, shown, ruled } = this.#looked;
    const all = this.#entities().flatMap((entity) =>
      this.#names(entity).flatMap((name) => {
        const key = `${entity}.${name}`;
        const conditions = shown.get(key);
        if (conditions === undefined || conditions.includes(null) || fixed.has(key) || ruled.has(key))
          return [];
        return (this.#stored.get(entity) ?? []).flatMap((row, at) =>
          conditions.some((condition) => condition !== null && this.#holds(entity, condition, row))
            ? []
            : [[entity, at, name] as const],
        );
      }),
    );
    if (all.length === 0) return null;
    const [entity, at, name] = pick(this.#choose, all);
    return this.#replaced(entity, at, name, 'hidden by its condition');
  }

  #hiddenRows(): (readonly [EntityName, number])[] {
    return this.#entities().flatMap((entity) =>
      (this.#stored.get(entity) ?? []).flatMap((row, at) =>
        this.#sees(entity, row) ? [] : [[entity, at] as const],
      ),
    );
  }

  /** A value of a row that a rule hides. */
  #hidden() {
    const all = this.#hiddenRows().flatMap(([entity, at]) =>
      this.#names(entity)
        .filter((name) => !this.#looked.ruled.has(`${entity}.${name}`))
        .map((name) => [entity, at, name] as const),
    );
    if (all.length === 0) return null;
    const [entity, at, name] = pick(this.#choose, all);
    return this.#replaced(entity, at, name, 'in a hidden row');
  }

  /** One more row like one that is hidden. */
  #add() {
    const all = this.#hiddenRows().filter(([entity]) => !this.#looked.ruled.has(entity));
    if (all.length === 0) return null;
    const [entity, at] = pick(this.#choose, all);
    const rows = this.#rows[entity] ?? [];
    const like = rows[at] ?? {};
    const number = 90 + this.#choose(100_000_000);
    const id = entity === 'portCall' ? callId(number) : number;
    const added = { ...like, id, ...(entity === 'operator' ? { name: `Another ${number}` } : {}) };
    const next: Rows = { ...this.#rows, [entity]: [...rows, added] };
    // A rule may look at the key or the name: then it may be seen.
    const rowsThere = [...memoryStore(stock, next as never).stream({ entity } as never)] as Row[];
    const stored = rowsThere.find((row) => row['id'] === id);
    if (stored === undefined || this.#sees(entity, stored)) return null;
    return { rows: next, what: `added: ${entity} like [${at}]` };
  }

  /** One row less, or one more, in the middle of a link. */
  #crew() {
    if (this.#looked.ruled.has('pilotage')) return null;
    const rows = this.#rows['pilotage'] ?? [];
    const hidden = (this.#stored.get('pilotage') ?? []).flatMap((row, at) =>
      this.#sees('pilotage', row) ? [] : [at],
    );
    if (hidden.length === 0) return null;
    const at = pick(this.#choose, hidden);
    const { portCallId, pilotId } = rows[at] ?? {};
    return {
      rows: { ...this.#rows, pilotage: rows.filter((_row, i) => i !== at) },
      what: `removed: pilotage of ${String(portCallId)} and ${String(pilotId)}`,
    };
  }

  /** One row less, that nothing leads to. */
  #remove() {
    const leads = (entity: EntityName, row: Row): boolean =>
      (entity === 'operator' &&
        ((this.#rows['vessel'] ?? []).some(({ operatorId }) => operatorId === row['id']) ||
          (this.#rows['operator'] ?? []).some(({ parentId }) => parentId === row['id']))) ||
      (entity === 'vessel' &&
        (this.#rows['portCall'] ?? []).some(({ vesselId }) => vesselId === row['id'])) ||
      (this.#rows['pilotage'] ?? []).some(
        ({ portCallId, pilotId }) =>
          (entity === 'portCall' && portCallId === row['id']) ||
          (entity === 'pilot' && pilotId === row['id']),
      );
    const all = this.#hiddenRows().filter(
      ([entity, at]) =>
        !this.#looked.ruled.has(entity) && !leads(entity, (this.#rows[entity] ?? [])[at] ?? {}),
    );
    if (all.length === 0) return null;
    const [entity, at] = pick(this.#choose, all);
    const rows = (this.#rows[entity] ?? []).filter((_row, i) => i !== at);
    return { rows: { ...this.#rows, [entity]: rows }, what: `removed: ${entity}[${at}]` };
  }
}
