import type { ColumnPlan } from '../../plan/entity-plan.js';
import { freeze } from '../../util/freeze.js';
import type { ColumnSettings } from './column.js';

/** A column under its name; stored as `stored`, where it says nothing else itself. */
export const planColumn = (name: string, stored: string, settings: ColumnSettings): ColumnPlan =>
  freeze({
    name,
    stored: settings.stored ?? stored,
    type: settings.type,
    nullable: settings.nullable,
    key: settings.key,
    generated: settings.generated,
    defaulted: settings.defaulted,
    stamped: settings.stamped,
    unique: settings.unique,
    sealed: settings.sealed,
    via: settings.via,
    coded: settings.coded,
    about: settings.about,
    example: settings.example,
  });
