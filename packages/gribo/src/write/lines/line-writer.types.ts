import { csvLines, jsonLines, list, shape } from '../../index.js';
import { fleet } from '../../testing/fleet.js';

const Card = shape(fleet.vessel, (v) => ({ id: v.id, name: v.name }));

csvLines(Card, { fields: ['name'] }, { guardFormulas: true }).bytes([]);

// @ts-expect-error there is no such member
csvLines(Card, { fields: ['nme'] });

// @ts-expect-error a row has no such column
jsonLines(list(Card)).bytes([{ nme: 'Anselma' }]);

// @ts-expect-error JSON has no formulas
jsonLines(Card, {}, { guardFormulas: true });

// @ts-expect-error a number is no body
csvLines(5);
