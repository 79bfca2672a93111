import type { ShapePlan } from '../../plan/declared.js';
import { listSeals, nestedSeals } from './link-seals.js';
import { type ListPlace, MemberRef, type RowPlace } from './member.js';

/** The member that nests a row, with the seals of what it shows. */
export const nestedRef = (place: RowPlace, shape: ShapePlan): MemberRef =>
  new MemberRef({ kind: 'nested', path: place.path, shape }, place.home, nestedSeals(place, shape));

/** The member that nests the rows behind a link, or the first of them, with the seals of what it shows. */
export const listRef = (kind: 'nestedList' | 'first', place: ListPlace, shape: ShapePlan): MemberRef => {
  const { path, link, selection, home } = place;
  return new MemberRef({ kind, path, link, selection, shape }, home, listSeals(place, shape));
};
