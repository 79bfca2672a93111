import { entity, integer, list, model, real, shape, text, timestamp, writer } from 'gribo';

const db = model(
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

const MANY = 1_000_000;
const EARLY = 10_000;

function* reports(): Generator<object> {
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

const megabytes = (bytes: number): string => (bytes / 1e6).toFixed(0);

/** Streams a million rows and prints how much memory that takes after the first ones. */
export const benchStream = async (): Promise<void> => {
  const reader = writer(list(PositionLine)).stream(reports()).getReader();
  let bytes = 0;
  let early = 0;
  let most = 0;
  const start = performance.now();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    bytes += value.length;
    const { rss } = process.memoryUsage();
    if (early === 0 && bytes > EARLY * 100) early = rss;
    most = Math.max(most, rss);
  }
  const seconds = (performance.now() - start) / 1000;
  const speed = `${megabytes(bytes)} MB in ${seconds.toFixed(1)} s, ${megabytes(bytes / seconds)} MB/s`;
  console.log(
    `stream of 1,000,000 rows: ${speed}; RSS ${megabytes(early)} MB after 10,000 rows, ${megabytes(most)} MB at its highest`,
  );
};
