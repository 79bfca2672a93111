import { stringify } from 'csv-stringify/sync';
import { csvLines, jsonLines } from 'gribo';
import { compare } from './compare.js';
import type { Figure } from './figure.js';
import { PositionLines, type Report, reports } from './positions.js';

const ROWS = 20_000;

const rows: Report[] = [];
for (const report of reports()) {
  if (rows.push(report) === ROWS) break;
}

const HEAD = 'id,vessel,at,lat,lon,speedKn\r\n';

const SPECIAL = /[",\r\n]/;

const cell = (text: string): string => {
  if (text === '') return '""';
  return SPECIAL.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

/** Joins, as people write them who know their columns. */
const byJoins = (): Buffer => {
  let text = HEAD;
  for (const { id, vessel, at, lat, lon, speedKn } of rows)
    text += `${[id, cell(vessel), at.toISOString(), lat, lon, speedKn].join(',')}\r\n`;
  return Buffer.from(text);
};

const mapped = ({ id, vessel, at, lat, lon, speedKn }: Report): object => ({
  id,
  vessel,
  at: at.toISOString(),
  lat,
  lon,
  speedKn,
});

const byPackage = (): Buffer =>
  Buffer.from(stringify(rows.map(mapped), { header: true, record_delimiter: '\r\n' }));

const asJson = (): Buffer => Buffer.from(rows.map((row) => `${JSON.stringify(mapped(row))}\n`).join(''));

const csv = csvLines(PositionLines);
const json = jsonLines(PositionLines);

/** Lines: CSV and JSON texts. */
export const benchLines = (): readonly Figure[] => [
  compare({
    what: 'CSV of 20,000 rows',
    than: 'hand-written joins',
    byHand: byJoins,
    byGribo: () => csv.bytes(rows),
    calls: 1,
    atLeast: 4,
  }),
  compare({
    what: 'CSV of 20,000 rows',
    than: 'csv-stringify',
    byHand: byPackage,
    byGribo: () => csv.bytes(rows),
    calls: 1,
  }),
  compare({
    what: 'JSON lines of 20,000 rows',
    byHand: asJson,
    byGribo: () => json.bytes(rows),
    calls: 1,
    atLeast: 4,
  }),
];
