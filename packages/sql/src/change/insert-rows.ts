import type { ColumnPlan, EntityPlan, Values, WorkRows } from 'gribo/kit';
import { sql } from 'kysely';
import type { Changing, Done } from './changing.js';

/** Finds a row by its key, with the columns that are needed. */
type Find = (by: Values, needs: readonly string[]) => Promise<Values | null>;

/** Rows that one statement can make, with their places among all. */
interface Batch {
  readonly columns: readonly ColumnPlan[];
  readonly rows: readonly Values[];
  readonly places: readonly number[];
}

const isSet = (row: Values, name: string): boolean => row[name] !== undefined;

/** Makes many rows of one entity in as few statements as there can be. */
export class InsertRows {
  readonly #changing: Changing;
  readonly #entity: EntityPlan;
  readonly #find: Find;

  constructor(changing: Changing, entity: EntityPlan, find: Find) {
    this.#changing = changing;
    this.#entity = entity;
    this.#find = find;
  }

  /** @returns the rows, with the columns that are needed of them */
  async insert(all: readonly Values[], needs: readonly string[]): Promise<WorkRows> {
    const rows = all.map((row) => this.#madeHere(row));
    const made: Values[] = [...rows];
    for (const batch of this.#batches(rows, needs)) {
      const found = await this.#insertBatch(batch, needs);
      if (found === batch.rows) continue;
      batch.places.forEach((place, i) => {
        made[place] = { ...rows[place], ...found[i] };
      });
    }
    return made;
  }

  /** A database that does not return rows cannot tell which UUID it made, and none can be put in order by it. */
  #madeHere(row: Values): Values {
    if (this.#changing.database.dialect.inserting.tells === 'inOrder') return row;
    const missing = this.#entity.columns.filter(
      ({ key, generated, type, name }) => key && generated && type.kind === 'uuid' && !isSet(row, name),
    );
    return missing.length === 0
      ? row
      : { ...row, ...Object.fromEntries(missing.map(({ name }) => [name, crypto.randomUUID()])) };
  }

  /** Rows that go together: what is made for one of them is made for all, and their parameters are not too many. */
  #batches(rows: readonly Values[], needs: readonly string[]): readonly Batch[] {
    const { takesDefault, parameters } = this.#changing.database.dialect.inserting;
    const groups = new Map<string, number[]>();
    const names = takesDefault ? needs : this.#entity.columns.map(({ name }) => name);
    let run = 0;
    let last = '';
    rows.forEach((row, place) => {
      const set = names.filter((name) => isSet(row, name)).join('\n');
      // Keys are made in the order of the rows: where none can say `default`, only neighbours go together.
      if (!takesDefault && set !== last) run++;
      last = set;
      const group = groups.get(`${run} ${set}`);
      if (group === undefined) groups.set(`${run} ${set}`, [place]);
      else group.push(place);
    });
    return [...groups.values()].flatMap((places) => {
      const columns = this.#entity.columns.filter(({ name }) =>
        places.some((place) => isSet(rows[place] ?? {}, name)),
      );
      const most = this.#most(columns.length, rows[places[0] ?? 0] ?? {}, needs, parameters);
      return Array.from({ length: Math.ceil(places.length / most) }, (_, i): Batch => {
        const some = places.slice(i * most, (i + 1) * most);
        return { columns, places: some, rows: some.map((place) => rows[place] ?? {}) };
      });
    });
  }

  /** How many rows a statement may make. */
  #most(columns: number, row: Values, needs: readonly string[], parameters: number): number {
    const missing = this.#missing(row, needs);
    // A row that sets nothing goes alone, and so does one of whose made values no order is known.
    if (columns === 0 || (missing.length > 0 && !this.#isTold(missing))) return 1;
    return Math.max(1, Math.floor(parameters / columns));
  }

  /** Whether the database tells which values it made for which of many rows. */
  #isTold(missing: readonly ColumnPlan[]): boolean {
    if (this.#changing.database.dialect.inserting.tells === 'inOrder') return true;
    // Counted keys are in the order of the rows.
    return missing.length === 1 && missing.every(isCounted);
  }

  #missing(row: Values, needs: readonly string[]): readonly ColumnPlan[] {
    return this.#entity.columns.filter(({ name }) => needs.includes(name) && !isSet(row, name));
  }

  async #insertBatch({ columns, rows }: Batch, needs: readonly string[]): Promise<WorkRows> {
    const { inserting } = this.#changing.database.dialect;
    const missing = this.#missing(rows[0] ?? {}, needs);
    const { tuples, parameters } = this.#tuples(columns, rows);
    const text = this.#head(columns) + tuples;
    if (missing.length === 0) {
      await this.#changing.executeText(text, parameters);
      return rows;
    }
    if (inserting.tells === 'first') {
      const done = await this.#changing.executeText(text, parameters);
      return this.#counted(missing, rows, done);
    }
    const done = await this.#changing.executeText(text + this.#returning(missing), parameters);
    const found = done.rows.map((flat) => this.#decoded(missing, flat));
    return inserting.tells === 'anyOrder' ? inOrderOf(missing, found) : found;
  }

  #head(columns: readonly ColumnPlan[]): string {
    const into = sql`insert into ${sql.table(this.#entity.table)}`;
    if (columns.length === 0) return `${this.#changing.textOf(into)} `;
    const names = sql.join(columns.map(({ stored }) => sql.id(stored)));
    return this.#changing.textOf(sql`${into} (${names})`);
  }

  /** The rows' values as text, and the parameters for it: in plain loops, because there may be many thousands. */
  #tuples(
    columns: readonly ColumnPlan[],
    rows: readonly Values[],
  ): { readonly tuples: string; readonly parameters: readonly unknown[] } {
    const { database } = this.#changing;
    const { dialect } = database;
    const { placeholder, nothing } = dialect.inserting;
    const stored = columns.map((column) => ({
      name: column.name,
      column: database.column(this.#entity, column),
    }));
    const parameters: unknown[] = [];
    if (columns.length === 0) return { tuples: nothing, parameters };
    let tuples = '';
    for (const row of rows) {
      let cells = '';
      for (const { name, column } of stored) {
        const value = row[name];
        const cell =
          value === undefined ? 'default' : placeholder(parameters.push(dialect.encode(column, value)));
        cells += cells === '' ? cell : `, ${cell}`;
      }
      tuples += `${tuples === '' ? '\nvalues' : ','} (${cells})`;
    }
    return { tuples, parameters };
  }

  #returning(missing: readonly ColumnPlan[]): string {
    const { database } = this.#changing;
    const pieces = missing.map((plan, i) => {
      const column = database.column(this.#entity, plan);
      return sql`${database.dialect.selected(column, sql.id(column.stored))} as ${sql.id(`c${i}`)}`;
    });
    return this.#changing.textOf(sql` returning ${sql.join(pieces)}`);
  }

  #decoded(missing: readonly ColumnPlan[], flat: Readonly<Record<string, unknown>>): Values {
    const { database } = this.#changing;
    return Object.fromEntries(
      missing.map((plan, i) => {
        const value = flat[`c${i}`];
        return [plan.name, database.dialect.decode(database.column(this.#entity, plan))?.(value) ?? value];
      }),
    );
  }

  /** The numbers that were made, from the first one on; what else was made is looked up. */
  async #counted(missing: readonly ColumnPlan[], rows: readonly Values[], done: Done): Promise<WorkRows> {
    const first = done.insertId ?? 0n;
    const step = rows.length === 1 ? 1n : await this.#step();
    const counted = missing.find(isCounted);
    const numbered = rows.map((row, i): Values => {
      if (counted === undefined) return row;
      const number = first + step * BigInt(i);
      return { ...row, [counted.name]: counted.type.kind === 'bigint' ? number : Number(number) };
    });
    const others = missing.filter((column) => column !== counted).map(({ name }) => name);
    const [only] = numbered;
    if (others.length === 0 || only === undefined) return numbered;
    const key = Object.fromEntries(this.#entity.key.map((name) => [name, only[name]]));
    return [{ ...only, ...(await this.#find(key, others)) }];
  }

  async #step(): Promise<bigint> {
    const { step } = this.#changing.database.dialect.inserting;
    const { rows } = step === null ? { rows: [] } : await this.#changing.execute(step);
    return BigInt(Number(rows[0]?.['step'] ?? 1));
  }
}

const isCounted = ({ key, generated, type }: ColumnPlan): boolean =>
  key && generated && (type.kind === 'integer' || type.kind === 'bigint');

/** Counted keys grow with the rows that they were made for. */
const inOrderOf = ([column]: readonly ColumnPlan[], found: readonly Values[]): WorkRows => {
  if (column === undefined || found.length < 2) return found;
  const numberOf = (row: Values): bigint => BigInt(row[column.name] as number | bigint);
  return [...found].sort((a, b) => (numberOf(a) < numberOf(b) ? -1 : 1));
};
