import type { Finding } from '../errors/declaration-error.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from '../plan/entity-plan.js';
import type { LinkedEntities, LinkedEntity } from '../plan/linked-entity.js';
import { sampleValue } from './kinds.js';
import { randomAt, wholeBetween } from './random.js';

/** What is known of a row while its model is filled. */
export type SampleRow = Record<string, unknown>;

/** How many rows of an entity, and those that the user brings. */
export interface SampleWishes {
  readonly seed: number | string;
  readonly rowsOf: (entity: string) => number;
  readonly ownOf: (entity: string) => readonly object[];
}

/** How often a value that must not come twice is made anew. */
const TRIES = 60;

const textOf = (value: unknown): string => (typeof value === 'bigint' ? `${value}` : JSON.stringify(value));

/** The to-one links of an entity: where its references lead. */
const references = ({ links }: LinkedEntity): readonly LinkPlan[] =>
  [...links.values()].filter(({ reference }) => reference === 'here');

/** Fills one model: keys first, then references, then all other values. */
export class SampleRows {
  readonly findings: Finding[] = [];
  readonly #model: LinkedEntities;
  readonly #wishes: SampleWishes;
  readonly #rows = new Map<string, SampleRow[]>();
  readonly #taken = new Map<string, Set<string>>();
  readonly #open = new Set<string>();

  constructor(model: LinkedEntities, wishes: SampleWishes) {
    this.#model = model;
    this.#wishes = wishes;
  }

  fill(): Readonly<Record<string, readonly object[]>> {
    const all = Object.values(this.#model);
    for (const linked of all) this.#keyed(linked);
    for (const linked of all) this.#refer(linked);
    for (const linked of all) this.#complete(linked);
    return Object.fromEntries(all.map(({ entity }) => [entity.name, this.#inOrder(entity)]));
  }

  /** The rows of an entity with their keys. */
  #keyed(linked: LinkedEntity): SampleRow[] {
    const { entity } = linked;
    const known = this.#rows.get(entity.name);
    if (known !== undefined) return known;
    const rows = this.#wishes.ownOf(entity.name).map((row): SampleRow => ({ ...row }));
    this.#rows.set(entity.name, rows);
    this.#open.add(entity.name);
    for (const row of rows) for (const column of entity.columns) this.#take(entity, column, row[column.name]);
    const wanted = Math.max(this.#wishes.rowsOf(entity.name), rows.length);
    for (const [index, row] of rows.entries()) this.#setKey(linked, row, index);
    while (rows.length < wanted) {
      const row: SampleRow = {};
      if (!this.#setKey(linked, row, rows.length)) break;
      rows.push(row);
    }
    this.#open.delete(entity.name);
    return rows;
  }

  /** Gives a row its key; false where no other key is to be had. */
  #setKey(linked: LinkedEntity, row: SampleRow, index: number): boolean {
    const { entity } = linked;
    const through = references(linked).filter(({ from }) => from.some((name) => entity.key.includes(name)));
    for (let turn = 0; turn < TRIES; turn++) {
      const made: SampleRow = { ...row };
      const isReferred = through.every((link) => this.#setReference(entity, made, link, index, turn));
      if (!isReferred) return false;
      for (const name of entity.key) this.#setOwnKey(entity, made, name, index, turn);
      const key = entity.key.map((name) => textOf(made[name])).join();
      const isNew = entity.key.every((name) => name in row) || this.#isNew(`${entity.name} key`, key);
      if (!isNew) continue;
      Object.assign(row, made);
      return true;
    }
    return false;
  }

  #setOwnKey(entity: EntityPlan, row: SampleRow, name: string, index: number, turn: number): void {
    if (name in row) return;
    const column = entity.columns.find((candidate) => candidate.name === name) as ColumnPlan;
    const { kind } = column.type;
    // Small whole numbers in turn: keys as databases give them.
    if (kind === 'integer' || kind === 'bigint') {
      const least = Number(column.type.min ?? 1) || 1;
      const number = least + index + turn;
      row[name] = kind === 'bigint' ? BigInt(number) : number;
    } else row[name] = this.#value(entity, column, index, turn);
  }

  /** Notes a value that must not come twice; false where it is there already. */
  #isNew(place: string, text: string): boolean {
    const taken = this.#taken.get(place) ?? new Set<string>();
    this.#taken.set(place, taken);
    if (taken.has(text)) return false;
    taken.add(text);
    return true;
  }

  #take(entity: EntityPlan, column: ColumnPlan, value: unknown): void {
    if (value === undefined || value === null) return;
    if (column.unique) this.#isNew(`${entity.name}.${column.name}`, textOf(value));
    if (column.key && entity.key.length === 1) this.#isNew(`${entity.name} key`, textOf(value));
  }

  /** Points a row at one of the rows behind a link; false where there is none to point at. */
  #setReference(entity: EntityPlan, row: SampleRow, link: LinkPlan, index: number, turn: number): boolean {
    if (link.from.every((name) => name in row)) return true;
    const target = this.#model[link.target.name];
    const isInKey = link.from.some((name) => entity.key.includes(name));
    // A key that is made of its own rows' keys has no beginning.
    if (target === undefined || (isInKey && this.#open.has(link.target.name))) return false;
    const rows = this.#referable(target, link.to);
    // The first row has none of its own kind before it.
    const isOwn = link.target.name === entity.name;
    const before = isOwn ? rows.slice(0, index) : rows;
    // What another link has set already is not set anew.
    const candidates = before.filter((candidate) =>
      link.from.every(
        (name, i) => !(name in row) || textOf(row[name]) === textOf(candidate[link.to[i] ?? '']),
      ),
    );
    const random = randomAt(this.#wishes.seed, entity.name, link.name, index, turn);
    const isUnique = entity.columns.some(({ name, unique }) => unique && link.from.includes(name));
    const isTheKey = isInKey && link.from.length === entity.key.length;
    // One for each, while there are some.
    const one = isTheKey || isUnique ? candidates[isOwn ? index - 1 : index] : undefined;
    const any = isUnique ? undefined : candidates[wholeBetween(random, 0, candidates.length - 1)];
    const picked = one ?? any;
    const mayBeNull = link.nullable && (picked === undefined || random() < 0.2);
    if (picked === undefined && !mayBeNull) return false;
    for (const [i, name] of link.from.entries()) {
      row[name] ??= mayBeNull ? null : picked?.[link.to[i] ?? ''];
    }
    return true;
  }

  /** The rows of an entity with the columns that others refer to. */
  #referable(linked: LinkedEntity, names: readonly string[]): readonly SampleRow[] {
    const rows = this.#keyed(linked);
    const { entity } = linked;
    for (const column of entity.columns.filter(({ name, key }) => !key && names.includes(name)))
      for (const [index, row] of rows.entries()) this.#fillColumn(entity, column, row, index);
    return rows;
  }

  #refer(linked: LinkedEntity): void {
    const { entity } = linked;
    const rows = this.#rows.get(entity.name) ?? [];
    for (const [index, row] of rows.entries()) {
      for (const link of references(linked)) {
        if (this.#setReference(entity, row, link, index, 0)) continue;
        // A row that must point at one of its own kind and is the first: at itself.
        for (const [i, name] of link.from.entries()) row[name] = row[link.to[i] ?? ''] ?? null;
        if (link.target.name !== entity.name) {
          const message = `it needs a ${link.target.name}, and there is none: ask for rows of ${link.target.name}`;
          this.findings.push({ path: `${entity.name}.${link.name}`, message });
          return;
        }
      }
    }
  }

  #complete({ entity }: LinkedEntity): void {
    const rows = this.#rows.get(entity.name) ?? [];
    for (const column of entity.columns) {
      const isFilled = rows.every((row, index) => this.#fillColumn(entity, column, row, index));
      if (isFilled) continue;
      const message = column.unique
        ? 'there are too few different values for a unique column: bring rows of your own'
        : "no text could be made that matches its pattern: give it one, .example('…')";
      this.findings.push({ path: `${entity.name}.${column.name}`, message });
    }
  }

  /** Gives a row its value in one column; false where none could be made. */
  #fillColumn(entity: EntityPlan, column: ColumnPlan, row: SampleRow, index: number): boolean {
    if (column.name in row) return true;
    const random = randomAt(this.#wishes.seed, entity.name, column.name, index, 'null');
    if (column.nullable && index > 0 && random() < 0.25) {
      row[column.name] = null;
      return true;
    }
    for (let turn = 0; turn < TRIES; turn++) {
      const value = this.#value(entity, column, index, turn);
      if (value === null) return false;
      if (column.unique && !this.#isNew(`${entity.name}.${column.name}`, textOf(value))) continue;
      row[column.name] = value;
      return true;
    }
    return false;
  }

  /** The first row shows the column's own example; where nothing can be made, every row does. */
  #value(entity: EntityPlan, column: ColumnPlan, index: number, turn: number): unknown {
    if (column.example !== undefined && index === 0 && turn === 0) return column.example;
    const random = randomAt(this.#wishes.seed, entity.name, column.name, index, turn);
    return sampleValue(column, index + turn, random) ?? column.example ?? null;
  }

  /** The rows with their columns in the entity's order. */
  #inOrder(entity: EntityPlan): readonly object[] {
    const rows = this.#rows.get(entity.name) ?? [];
    return rows.map((row) => Object.fromEntries(entity.columns.map(({ name }) => [name, row[name]])));
  }
}
