import { writer } from 'gribo';
import { compare } from './compare.js';
import { mappedByHand, VesselDetail, VesselList, vesselRows } from './vessels.js';

const rows = vesselRows(1000);
const [row] = rows;
if (row === undefined) throw new Error('no rows');

const many = writer(VesselList);
const one = writer(VesselDetail);
const plain = writer(VesselList, {}, { engine: 'interpreted' });

/** Writing: section by section, the ratios to hand-written mapping. */
export const benchWrite = (): boolean =>
  [
    compare({
      name: 'bytes of 1,000 nested rows',
      byHand: () => Buffer.from(JSON.stringify(rows.map(mappedByHand))),
      byGribo: () => many.bytes(rows),
      calls: 4,
      atLeast: 4,
    }),
    compare({
      name: 'json of 1,000 nested rows',
      byHand: () => JSON.stringify(rows.map(mappedByHand)),
      byGribo: () => many.json(rows),
      calls: 4,
      atLeast: 1.5,
    }),
    compare({
      name: 'bytes of one row',
      byHand: () => Buffer.from(JSON.stringify(mappedByHand(row))),
      byGribo: () => one.bytes(row),
      calls: 2000,
      atLeast: 2,
    }),
    compare({
      name: 'json of one row',
      byHand: () => JSON.stringify(mappedByHand(row)),
      byGribo: () => one.json(row),
      calls: 2000,
      atLeast: 0,
    }),
    compare({
      name: 'object of 1,000 rows, then JSON.stringify',
      byHand: () => JSON.stringify(rows.map(mappedByHand)),
      byGribo: () => JSON.stringify(many.object(rows)),
      calls: 4,
      atLeast: 0,
    }),
    compare({
      name: 'bytes of 1,000 rows, interpreted',
      byHand: () => Buffer.from(JSON.stringify(rows.map(mappedByHand))),
      byGribo: () => plain.bytes(rows),
      calls: 4,
      atLeast: 0,
    }),
  ].every((reached) => reached);
