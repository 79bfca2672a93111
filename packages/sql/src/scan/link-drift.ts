import type { EntityPlan, LinkedEntity, LinkPlan } from 'gribo/kit';
import type { Reference, ScannedTable } from '../catalogue/database-schema.js';

/** A link that leads elsewhere, and where the database's reference leads. */
export interface LinkDrift {
  readonly path: string;
  readonly message: string;
}

/** Columns of one entity that hold values of another's, in step. */
interface Holding {
  readonly holder: EntityPlan;
  readonly columns: readonly string[];
  readonly held: EntityPlan;
  readonly targets: readonly string[];
}

/** Which columns hold what, by a link: one side of it, or both sides of the entity in the middle. */
const holdingsOf = (
  owner: EntityPlan,
  { target, from, to, reference, through }: LinkPlan,
): readonly Holding[] => {
  if (through !== null) {
    return [
      { holder: through.entity, columns: through.from, held: owner, targets: from },
      { holder: through.entity, columns: through.to, held: target, targets: to },
    ];
  }
  if (reference === 'none') return [];
  return reference === 'here'
    ? [{ holder: owner, columns: from, held: target, targets: to }]
    : [{ holder: target, columns: to, held: owner, targets: from }];
};

const storedName = ({ columns }: EntityPlan, name: string): string =>
  columns.find((column) => column.name === name)?.stored ?? name;

/** Pairs of stored columns as a text, whatever their order: `a = b, c = d`. */
const pairsText = (columns: readonly string[], targets: readonly string[]): string =>
  columns
    .map((column, i) => `${column} = ${targets[i]}`)
    .sort()
    .join(', ');

const isAbout = ({ columns }: Reference, names: readonly string[]): boolean =>
  columns.length === names.length && names.every((name) => columns.includes(name));

/** The tables of a database, by the entity that has one or by their ids. */
export interface Tables {
  of(entity: EntityPlan): ScannedTable | undefined;
  byId(id: string): ScannedTable | undefined;
}

const holdingDrift = (
  path: string,
  { holder, columns, held, targets }: Holding,
  tables: Tables,
): LinkDrift[] => {
  const [mine, theirs] = [tables.of(holder), tables.of(held)];
  // That a table is missing is told of its entity.
  if (mine === undefined || theirs === undefined) return [];
  const names = columns.map((name) => storedName(holder, name));
  const references = mine.references.filter((reference) => isAbout(reference, names));
  const [first] = references;
  // A link needs no reference: where there is none over these columns, nothing says otherwise.
  if (first === undefined) return [];
  const declared = pairsText(
    names,
    targets.map((name) => storedName(held, name)),
  );
  const isThere = references.some(
    (reference) =>
      reference.table === theirs.id && pairsText(reference.columns, reference.targets) === declared,
  );
  if (isThere) return [];
  const other = tables.byId(first.table)?.stored ?? 'a table that was not read';
  const said = `${pairsText(first.columns, first.targets)} of ${other}`;
  const message = `the model links ${holder.table} by ${declared} of ${held.table}; the database's reference is by ${said}: change one of them`;
  return [{ path, message }];
};

/** Where links lead to other rows than the references of the database over the same columns. */
export const linkDrift = ({ entity, links }: LinkedEntity, tables: Tables): readonly LinkDrift[] =>
  [...links.values()].flatMap((link) =>
    holdingsOf(entity, link).flatMap((holding) =>
      holdingDrift(`${entity.name}.${link.name}`, holding, tables),
    ),
  );
