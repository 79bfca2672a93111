import { freeze } from '../util/freeze.js';
import { bareLink } from './bare-link.js';
import type { ColumnType } from './column-type.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from './entity-plan.js';

const whole: ColumnType = freeze({ kind: 'integer', min: 0, max: null });
const words: ColumnType = freeze({ kind: 'text', min: null, max: null, pattern: null });

const column = (name: string, type: ColumnType): ColumnPlan =>
  freeze({
    name,
    stored: name,
    type,
    nullable: true,
    key: false,
    generated: false,
    defaulted: false,
    stamped: null,
    unique: false,
    sealed: null,
    via: null,
    coded: null,
    about: null,
    example: undefined,
  });

/**
 * What an envelope is written from: the rows or the row, and what is known about
 * them. It is described as an entity, so that envelopes are shapes like any other.
 */
export const ENVELOPE: EntityPlan = freeze({
  kind: 'envelope',
  name: 'envelope',
  table: '',
  columns: freeze([
    column('number', whole),
    column('size', whole),
    column('total', whole),
    column('pages', whole),
    column('next', words),
    column('previous', words),
  ]),
  readOnly: true,
  key: freeze([]),
});

/** The link from an envelope to its rows, or to its one row. */
export const contentLink = (kind: 'one' | 'list', target: EntityPlan): LinkPlan =>
  kind === 'one'
    ? bareLink(ENVELOPE.name, 'item', 'toOne', target)
    : bareLink(ENVELOPE.name, 'items', 'toMany', target);
