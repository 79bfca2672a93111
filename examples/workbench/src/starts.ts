import cardAndDetail from './gallery/card-and-detail.ts?raw';
import computed from './gallery/computed.ts?raw';
import forSome from './gallery/for-some.ts?raw';
import ownModel from './gallery/own-model.ts?raw';
import ownRows from './gallery/own-rows.ts?raw';
import sealed from './gallery/sealed.ts?raw';
import shortAndLong from './gallery/short-and-long.ts?raw';
import someOfMany from './gallery/some-of-many.ts?raw';
import totals from './gallery/totals.ts?raw';
import tree from './gallery/tree.ts?raw';

/** A small problem to begin with. */
export interface Start {
  /** What an address calls it: `#problem=totals`. */
  readonly id: string;
  readonly name: string;
  readonly source: string;
}

/** What there is to begin with: the compiler looks at each, as at any other module. */
export const STARTS: readonly Start[] = [
  { id: 'card-and-detail', name: 'A card and a detail', source: cardAndDetail },
  { id: 'for-some', name: 'Hide from all but some', source: forSome },
  { id: 'sealed', name: 'What is sealed stays inside', source: sealed },
  { id: 'short-and-long', name: 'List short, read long', source: shortAndLong },
  { id: 'computed', name: 'Computed and converted', source: computed },
  { id: 'some-of-many', name: 'Some of many', source: someOfMany },
  { id: 'totals', name: 'Totals', source: totals },
  { id: 'tree', name: 'A tree', source: tree },
  { id: 'own-rows', name: 'Rows of your own', source: ownRows },
  { id: 'own-model', name: 'A model of your own', source: ownModel },
];

/** The problem that an address names; null where it names none. */
export const startIn = (hash: string): Start | null => {
  const [, id] = /^#problem=([\w-]+)$/.exec(hash) ?? [];
  return STARTS.find((start) => start.id === id) ?? null;
};
