import { benchBodies } from './bodies.js';
import { benchBuild } from './build.js';
import { benchEditions } from './editions.js';
import { benchExport } from './export.js';
import type { Figure } from './figure.js';
import { benchFirstUse } from './first-use.js';
import { benchLines } from './lines.js';
import { benchMixes } from './mixes.js';
import { benchRead } from './read.js';
import { benchRoundTrips } from './round-trips.js';
import { benchServe } from './serve.js';
import { benchSituations } from './situations.js';
import { benchSize } from './size.js';
import { benchSql } from './sql.js';
import { benchSqlCreate } from './sql-create.js';
import { benchSqlExport } from './sql-export.js';
import { benchStart } from './start.js';
import { benchStream } from './stream.js';
import { benchTypes } from './types.js';
import { benchWrite } from './write.js';

type Figures = Figure | readonly Figure[];

/** What is measured, by the name that `--only` takes. */
export const PARTS: Readonly<Record<string, () => Figures | Promise<Figures>>> = {
  write: benchWrite,
  mixes: benchMixes,
  lines: benchLines,
  read: benchRead,
  'first-use': benchFirstUse,
  situations: benchSituations,
  editions: benchEditions,
  stream: benchStream,
  serve: benchServe,
  bodies: benchBodies,
  export: benchExport,
  sql: benchSql,
  'round-trips': benchRoundTrips,
  'sql-create': benchSqlCreate,
  'sql-export': benchSqlExport,
  size: benchSize,
  start: benchStart,
  types: benchTypes,
  build: benchBuild,
};

/** The figures of some parts, one part after the other. */
export const figuresOf = async (
  names: readonly string[],
  begins: (name: string) => void,
): Promise<readonly Figure[]> => {
  const all: Figure[] = [];
  for (const name of names) {
    begins(name);
    const figures = (await PARTS[name]?.()) ?? [];
    all.push(...[figures].flat());
  }
  return all;
};
