import type { DatabaseSchema, Reference, ScannedColumn, ScannedTable } from '../catalogue/database-schema.js';
import { byName, camelCase, freeName, plural, singular } from './names.js';

/** A column with the name it gets in the model. */
export interface ModelColumn {
  readonly name: string;
  readonly column: ScannedColumn;
  readonly key: boolean;
  readonly unique: boolean;
  /** Whether its name tells of what not everybody should see: then it comes out sealed. */
  readonly isSecret: boolean;
}

export type ModelLink =
  | {
      readonly kind: 'toOne';
      readonly name: string;
      readonly target: string;
      readonly via: readonly string[];
    }
  | {
      readonly kind: 'toMany';
      readonly name: string;
      readonly target: string;
      readonly via: readonly string[];
    }
  | {
      readonly kind: 'through';
      readonly name: string;
      readonly target: string;
      readonly through: string;
      readonly from: readonly string[];
      readonly to: readonly string[];
    };

export interface ModelEntity {
  readonly name: string;
  readonly table: string;
  readonly columns: readonly ModelColumn[];
  readonly links: readonly ModelLink[];
}

/** A model as it follows from a database: entities with names, columns and links. */
export interface ScannedModel {
  readonly entities: readonly ModelEntity[];
  /** Tables that cannot be entities, and why. */
  readonly leftOut: readonly { readonly table: string; readonly why: string }[];
}

/** Names that tell of what not everybody should see. */
const SECRET =
  /pass(?:word|wd|phrase)|secret|token|api_?key|salt|hash$|phone|mobile|e?mail|address|birth|iban|account_no|credit|card|tax_?id|ssn|salary|medical|health|passport|gate_?code|pin(?:_?code)?$/i;

/** What every object has: no property of a row can be called so. */
const INHERITED = Object.getOwnPropertyNames(Object.prototype);

/** What no entity's variable can be called: words of the language, and what the sources import or declare. */
const RESERVED = new Set(
  [
    'break case catch class const continue debugger default delete do else enum export extends false finally for function',
    'if import in instanceof new null return super switch this throw true try typeof var void while with yield let static await',
    'entity model toOne toMany text integer bigint real decimal bool date time timestamp uuid json bytes oneOf',
    'api collection page shape db office row tables',
    'eval arguments undefined NaN Infinity globalThis implements interface package private protected public async',
    ...INHERITED,
  ].flatMap((words) => words.split(' ')),
);

interface Draft {
  readonly name: string;
  readonly table: ScannedTable;
  readonly columns: readonly ModelColumn[];
  readonly taken: Set<string>;
  readonly links: ModelLink[];
}

const draftOf = (table: ScannedTable, name: string): Draft => {
  const taken = new Set<string>(INHERITED);
  const columns = table.columns.map((column): ModelColumn => {
    const property = freeName(taken, camelCase(column.name));
    taken.add(property);
    return {
      name: property,
      column,
      key: table.key.includes(column.name),
      unique: table.unique.includes(column.name),
      isSecret: !table.key.includes(column.name) && SECRET.test(column.name),
    };
  });
  return { name, table, columns, taken, links: [] };
};

const properties = ({ columns }: Draft, stored: readonly string[]): readonly string[] =>
  stored.map((name) => columns.find(({ column }) => column.name === name)?.name ?? name);

/** The columns that hold the key of a row of another entity, in the order in which that entity has its key. */
const holding = (draft: Draft, { columns, targets }: Reference, target: Draft): readonly string[] => {
  const keyed = target.columns.filter(({ key }) => key).map(({ column }) => column.name);
  return properties(
    draft,
    keyed.flatMap((name) => columns[targets.indexOf(name)] ?? []),
  );
};

/** Whether a reference is to the key of a table, whatever the order. */
const isToKey = ({ targets }: Reference, { key }: ScannedTable): boolean =>
  targets.length === key.length && key.every((name) => targets.includes(name));

const add = (draft: Draft, link: ModelLink): void => {
  draft.taken.add(link.name);
  draft.links.push(link);
};

/** `operator_id` → `operator`; where that says nothing, the name of the other entity. */
const linkName = (draft: Draft, reference: Reference, target: Draft): string => {
  const [column = ''] = reference.columns;
  const stem = camelCase(column.replace(/_?(?:id|fk|key|code|no)$/i, ''));
  const isNamed = reference.columns.length === 1 && stem !== '_' && camelCase(column) !== stem;
  return isNamed
    ? freeName(draft.taken, stem, `${stem}Row`)
    : freeName(draft.taken, target.name, `${target.name}Row`);
};

/** Whether a table only joins two others: its key is two references and nothing else. */
const joins = ({ table }: Draft): readonly [Reference, Reference] | null => {
  const parts = table.references.filter(({ columns }) => columns.every((name) => table.key.includes(name)));
  const [one, other] = parts;
  const isAll = parts.flatMap(({ columns }) => columns).length === table.key.length;
  return one !== undefined && other !== undefined && parts.length === 2 && isAll ? [one, other] : null;
};

/** An entity is called after one row; a table that is called so already goes first. */
const entityNames = (tables: readonly ScannedTable[]): ReadonlyMap<ScannedTable, string> => {
  const names = new Map<ScannedTable, string>();
  const taken = new Set<string>();
  const isSingular = ({ name }: ScannedTable): boolean => singular(camelCase(name)) === camelCase(name);
  for (const table of [...tables.filter(isSingular), ...tables.filter((each) => !isSingular(each))]) {
    const wanted = [singular(camelCase(table.name)), camelCase(table.name)];
    const name = freeName(taken, ...wanted.map((word) => (RESERVED.has(word) ? `${word}Row` : word)));
    taken.add(name);
    names.set(table, name);
  }
  return names;
};

/** Names entities, columns and links. Every reference is a link both ways. */
export const scannedModel = ({ tables }: DatabaseSchema): ScannedModel => {
  const keyed = tables.filter(({ key }) => key.length > 0);
  const leftOut = tables
    .filter((table) => !keyed.includes(table))
    .map((table) => ({ table: table.name, why: 'it has no primary key' }));
  const names = entityNames(keyed);
  const drafts = new Map(keyed.map((table) => [table.name, draftOf(table, names.get(table) ?? table.name)]));
  const all = [...drafts.values()];
  const known = (draft: Draft): { reference: Reference; target: Draft }[] =>
    draft.table.references.flatMap((reference) => {
      const target = drafts.get(reference.table);
      // A link leads to the key of a row.
      return target === undefined || !isToKey(reference, target.table) ? [] : [{ reference, target }];
    });
  const reversed: { draft: Draft; target: Draft; name: string; reference: Reference }[] = [];
  for (const draft of all) {
    for (const { reference, target } of known(draft)) {
      const name = linkName(draft, reference, target);
      add(draft, { kind: 'toOne', name, target: target.name, via: holding(draft, reference, target) });
      reversed.push({ draft, target, name, reference });
    }
  }
  for (const { draft, target, name, reference } of reversed) {
    const isOnly = reversed.filter((other) => other.draft === draft && other.target === target).length === 1;
    const many = plural(draft.name);
    const found = isOnly
      ? freeName(target.taken, many, byName(many, name))
      : freeName(target.taken, byName(many, name));
    add(target, {
      kind: 'toMany',
      name: found,
      target: draft.name,
      via: holding(draft, reference, target),
    });
  }
  for (const draft of all) {
    const pair = joins(draft);
    if (pair === null) continue;
    for (const [mine, theirs] of [pair, [pair[1], pair[0]] as const]) {
      const owner = drafts.get(mine.table);
      const target = drafts.get(theirs.table);
      if (owner === undefined || target === undefined) continue;
      if (!isToKey(mine, owner.table) || !isToKey(theirs, target.table)) continue;
      const many = plural(target.name);
      add(owner, {
        kind: 'through',
        name: freeName(owner.taken, many, byName(many, draft.name)),
        target: target.name,
        through: draft.name,
        from: holding(draft, mine, owner),
        to: holding(draft, theirs, target),
      });
    }
  }
  const entities = all.map(({ name, table, columns, links }) => ({
    name,
    table: table.name,
    columns,
    links,
  }));
  return { entities, leftOut };
};
