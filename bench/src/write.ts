import { writer } from 'gribo';
import { compare } from './compare.js';
import type { Figure } from './figure.js';
import { mappedByHand, VesselDetail, VesselList, vesselRows } from './vessels.js';

const rows = vesselRows(1000);
const [row] = rows;
if (row === undefined) throw new Error('no rows');

/** The same, with nothing left to do but to write it. */
const ready: unknown = JSON.parse(JSON.stringify(rows.map(mappedByHand)));

const many = writer(VesselList);
const one = writer(VesselDetail);
const plain = writer(VesselList, {}, { engine: 'interpreted' });

/** Writing, against hand-written mapping. */
export const benchWrite = (): readonly Figure[] => [
  compare({
    what: 'bytes of 1,000 nested rows',
    byHand: () => Buffer.from(JSON.stringify(rows.map(mappedByHand))),
    byGribo: () => many.bytes(rows),
    calls: 4,
    atLeast: 5,
  }),
  compare({
    what: 'bytes of 1,000 nested rows',
    than: 'JSON.stringify of ready objects',
    byHand: () => Buffer.from(JSON.stringify(ready)),
    byGribo: () => many.bytes(rows),
    calls: 4,
    atLeast: 1,
  }),
  compare({
    what: 'json of 1,000 nested rows',
    byHand: () => JSON.stringify(rows.map(mappedByHand)),
    byGribo: () => many.json(rows),
    calls: 4,
    atLeast: 1.5,
  }),
  compare({
    what: 'bytes of one row',
    byHand: () => Buffer.from(JSON.stringify(mappedByHand(row))),
    byGribo: () => one.bytes(row),
    calls: 2000,
    atLeast: 5,
  }),
  compare({
    what: 'json of one row',
    byHand: () => JSON.stringify(mappedByHand(row)),
    byGribo: () => one.json(row),
    calls: 2000,
  }),
  compare({
    what: 'object of 1,000 rows, then JSON.stringify',
    byHand: () => JSON.stringify(rows.map(mappedByHand)),
    byGribo: () => JSON.stringify(many.object(rows)),
    calls: 4,
  }),
  compare({
    what: 'bytes of 1,000 rows, interpreted',
    byHand: () => Buffer.from(JSON.stringify(rows.map(mappedByHand))),
    byGribo: () => plain.bytes(rows),
    calls: 4,
  }),
];
