import { type ColumnType, holdAlike } from 'gribo/kit';
import type { Reference } from '../catalogue/database-schema.js';
import type { Draft } from './draft.js';
import { byName, camelCase, freeName, plural } from './names.js';
import type { ModelLink, ModelPair } from './scanned-model.js';

const property = ({ columns }: Draft, stored: string): string | null =>
  columns.find(({ column }) => column.name === stored)?.name ?? null;

/** The pairs of a reference, in the order in which the target has its key; null where a column is not in the model. */
const pairsOf = (
  draft: Draft,
  { columns, targets }: Reference,
  target: Draft,
): readonly ModelPair[] | null => {
  const order = isToKey(targets, target) ? keyInOrder(target) : targets;
  const pairs = order.map((held) => [columns[targets.indexOf(held)] ?? '', held] as const);
  const named = pairs.map(([holding, held]) => [property(draft, holding), property(target, held)] as const);
  return named.every((pair): pair is ModelPair => pair[0] !== null && pair[1] !== null) ? named : null;
};

/** The columns of a key in the order in which the entity has them. */
const keyInOrder = ({ columns }: Draft): readonly string[] =>
  columns.filter(({ key }) => key).map(({ column }) => column.name);

/** Whether a reference is to the key of a table, whatever the order. */
const isToKey = (targets: readonly string[], { key }: Draft): boolean =>
  targets.length === key.length && key.every((name) => targets.includes(name));

/** Whether columns of these types hold values of each other; undefined: there is no such column. */
const isHeld = (one: ColumnType | undefined, other: ColumnType | undefined): boolean =>
  one !== undefined && other !== undefined && holdAlike(one, other);

/** Whether no two rows of a table have the same values in these columns. */
const isUnique = ({ table, key }: Draft, columns: readonly string[]): boolean =>
  [key, ...table.unique].some((some) => some.length > 0 && some.every((name) => columns.includes(name)));

const add = (draft: Draft, link: ModelLink): void => {
  draft.taken.add(link.name);
  draft.links.push(link);
};

/** `operator_id` → `operator`; where that says nothing, the name of the other entity. */
const linkName = (draft: Draft, reference: Reference, target: Draft): string => {
  const [column = ''] = reference.columns;
  const stem = camelCase(column.replace(/[_ ]?(?:id|fk|key|code|no)$/i, ''));
  const isNamed = reference.columns.length === 1 && stem !== '_' && camelCase(column) !== stem;
  return isNamed
    ? freeName(draft.taken, stem, `${stem}Row`)
    : freeName(draft.taken, target.name, `${target.name}Row`);
};

/** Whether a table only joins two others: its key is two references and nothing else. */
const joins = ({ table, key }: Draft): readonly [Reference, Reference] | null => {
  const parts = table.references.filter(({ columns }) => columns.every((name) => key.includes(name)));
  const [one, other] = parts;
  const isAll = parts.flatMap(({ columns }) => columns).length === key.length;
  return one !== undefined && other !== undefined && parts.length === 2 && isAll ? [one, other] : null;
};

/** A reference between two tables that are both in the model. */
interface Known {
  readonly draft: Draft;
  readonly target: Draft;
  readonly reference: Reference;
  readonly pairs: readonly ModelPair[];
}

class Linking {
  readonly #drafts: ReadonlyMap<string, Draft>;

  constructor(drafts: ReadonlyMap<string, Draft>) {
    this.#drafts = drafts;
  }

  link(): void {
    const known = [...this.#drafts.values()].flatMap((draft) =>
      draft.table.references.flatMap((reference) => this.#known(draft, reference)),
    );
    const named = known.map((each) => ({ ...each, name: this.#forward(each) }));
    for (const each of named) {
      const isOnly =
        named.filter(({ draft, target }) => draft === each.draft && target === each.target).length === 1;
      this.#back(each, each.name, isOnly);
    }
    for (const draft of this.#drafts.values()) this.#through(draft);
  }

  #known(draft: Draft, reference: Reference): readonly Known[] {
    const target = this.#drafts.get(reference.table);
    const what = `reference of ${reference.columns.join(', ')}`;
    const refuse = (why: string): readonly Known[] => {
      draft.unsaid.push({ what, why });
      return [];
    };
    if (target === undefined)
      return refuse('the table it names is not in the model: where that is in another schema, scan it too');
    const pairs = pairsOf(draft, reference, target);
    if (pairs === null) return refuse('a column of it is not in the model');
    const isAlike = pairs.every(([holding, held]) =>
      isHeld(this.#typeOf(draft, holding), this.#typeOf(target, held)),
    );
    return isAlike ? [{ draft, target, reference, pairs }] : refuse('its columns are of different types');
  }

  #typeOf({ columns }: Draft, name: string): ColumnType | undefined {
    return columns.find((column) => column.name === name)?.column.type;
  }

  #forward({ draft, target, reference, pairs }: Known): string {
    const name = linkName(draft, reference, target);
    const isKey = isToKey(reference.targets, target);
    add(draft, { kind: 'toOne', name, target: target.name, pairs, isKey, optional: false });
    return name;
  }

  #back({ draft, target, reference, pairs }: Known, name: string, isOnly: boolean): void {
    const isOne = isUnique(draft, reference.columns);
    const called = isOne ? draft.name : plural(draft.name);
    const found = isOnly
      ? freeName(target.taken, called, byName(called, name))
      : freeName(target.taken, byName(called, name));
    const isKey = isToKey(reference.targets, target);
    if (!isOne) return add(target, { kind: 'toMany', name: found, target: draft.name, pairs, isKey });
    const turned = pairs.map(([holding, held]) => [held, holding] as const);
    const isTurnedKey = isToKey(reference.columns, draft);
    add(target, {
      kind: 'toOne',
      name: found,
      target: draft.name,
      pairs: isTurnedKey ? this.#inOrderOf(draft, turned) : turned,
      isKey: isTurnedKey,
      optional: true,
    });
  }

  #inOrderOf(target: Draft, pairs: readonly ModelPair[]): readonly ModelPair[] {
    const order = target.columns.map(({ name }) => name);
    return [...pairs].sort(([, a], [, b]) => order.indexOf(a) - order.indexOf(b));
  }

  #through(draft: Draft): void {
    const pair = joins(draft);
    if (pair === null) return;
    for (const [mine, theirs] of [pair, [pair[1], pair[0]] as const]) {
      const [owner, target] = [this.#drafts.get(mine.table), this.#drafts.get(theirs.table)];
      if (owner === undefined || target === undefined) continue;
      const [from, to] = [pairsOf(draft, mine, owner), pairsOf(draft, theirs, target)];
      if (from === null || to === null) continue;
      const many = plural(target.name);
      add(owner, {
        kind: 'through',
        name: freeName(owner.taken, many, byName(many, draft.name)),
        target: target.name,
        through: draft.name,
        from,
        to,
        isKey: isToKey(mine.targets, owner) && isToKey(theirs.targets, target),
      });
    }
  }
}

/** Gives every reference between these tables a link both ways, by the ids of the tables. */
export const linkDrafts = (drafts: ReadonlyMap<string, Draft>): void => new Linking(drafts).link();
