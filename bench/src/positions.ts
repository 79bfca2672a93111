import { entity, integer, list, model, real, shape, text, timestamp } from 'gribo';

export const db = model(
  {
    positionReport: entity('positionReport', {
      id: integer().key(),
      vessel: text(),
      at: timestamp(),
      lat: real(),
      lon: real(),
      speedKn: real(),
    }),
  },
  {},
);

const PositionLine = shape(db.positionReport, ({ id, vessel, at, lat, lon, speedKn }) => ({
  id,
  vessel,
  at,
  lat,
  lon,
  speedKn,
}));

export const PositionLines = list(PositionLine);

export const MANY = 1_000_000;

export interface Report {
  readonly id: number;
  readonly vessel: string;
  readonly at: Date;
  readonly lat: number;
  readonly lon: number;
  readonly speedKn: number;
}

/** A million position reports, one at a time. */
export function* reports(): Generator<Report> {
  for (let id = 0; id < MANY; id++) {
    const lat = 54 + (id % 99_999) / 100_000;
    yield {
      id,
      vessel: `Vessel ${id % 40}`,
      at: new Date(1.7e12 + id * 1000),
      lat,
      lon: -1.5,
      speedKn: (id % 200) / 10,
    };
  }
}
