import { everyRow } from '../../plan/every-row.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import type { BoundEntity } from '../entity/model.js';
import { columnSeals } from './link-seals.js';
import { handOut, handOutBroken, MemberRef, type RowPlace, stand } from './member.js';

const noSuchName = (bound: BoundEntity, name: string): unknown => {
  const known = [...bound.entity.columns.map((column) => column.name), ...bound.links.keys()];
  return handOutBroken(`${bound.entity.name} has no column or link "${name}".${didYouMean(name, known)}`);
};

/** What the row gives for one of its names. */
const reach = (place: RowPlace, name: string): unknown => {
  const { bound, path, home } = place;
  const column = bound.entity.columns.find((candidate) => candidate.name === name);
  if (column !== undefined) {
    const node = freeze({ kind: 'column', path, column });
    return handOut(new MemberRef(node, home, columnSeals(place, column)));
  }
  const link = bound.links.get(name);
  const target = link === undefined ? undefined : bound.model.get(link.target.name);
  if (link === undefined || target === undefined) return noSuchName(bound, name);
  if (link.kind === 'toOne') return rowRef({ ...place, path: freeze([...path, link]), bound: target });
  return handOut({ kind: 'rows', home, path, link, selection: everyRow, bound: target });
};

/**
 * The row that a shape's function is given. A proxy, so that a name which is no column or
 * link is told with the names that are near it.
 */
export const rowRef = (place: RowPlace): object => {
  const names = [...place.bound.entity.columns.map((column) => column.name), ...place.bound.links.keys()];
  const proxy = new Proxy(
    {},
    {
      get: (_target, name) => (typeof name === 'string' ? reach(place, name) : undefined),
      has: (_target, name) => names.includes(String(name)),
      ownKeys: () => names,
      getOwnPropertyDescriptor: (_target, name) =>
        names.includes(String(name))
          ? { value: reach(place, String(name)), enumerable: true, configurable: true }
          : undefined,
    },
  );
  return stand(proxy, place);
};

/** The row a new shape starts from. */
export const rootRow = (bound: BoundEntity): RowPlace =>
  freeze({ kind: 'row', home: freeze({ origin: {}, base: [] }), path: freeze([]), bound });
