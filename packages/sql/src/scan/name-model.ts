import type { DatabaseSchema, ScannedTable } from '../catalogue/database-schema.js';
import { draftOf } from './draft.js';
import { entityNames } from './entity-names.js';
import { linkDrafts } from './link-drafts.js';
import type { ScannedModel } from './scanned-model.js';

/** Why a table cannot be an entity; null where it can. */
const whyNot = ({ name, isView, key, columns }: ScannedTable): string | null => {
  if (name.includes('.')) return 'its name has a point in it';
  if (columns.every(({ type }) => type === null)) return 'it has no column that the model could hold';
  if (key.some((part) => columns.some((column) => column.name === part && column.type === null)))
    return 'no type holds its key';
  return isView || key.length > 0 ? null : 'it has no primary key';
};

/** Names entities, columns and links. Every reference is a link both ways. */
export const nameModel = ({ tables }: DatabaseSchema): ScannedModel => {
  const leftOut = tables.flatMap((table) => {
    const why = whyNot(table);
    return why === null ? [] : [{ table: table.stored, why }];
  });
  const kept = tables.filter((table) => whyNot(table) === null);
  const names = entityNames(kept);
  const drafts = new Map(kept.map((table) => [table.id, draftOf(table, names.get(table) ?? table.name)]));
  linkDrafts(drafts);
  const entities = [...drafts.values()].map(({ name, table, isKeyProposed, columns, links, unsaid }) => ({
    name,
    table: table.stored,
    about: table.about,
    readOnly: table.isView,
    isKeyProposed,
    columns,
    links,
    unsaid,
  }));
  return { entities, leftOut };
};
