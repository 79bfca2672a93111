import { randomUUID } from 'node:crypto';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import type { AnyApi } from 'gribo';
import type { LinkedEntities } from 'gribo/kit';

/** Where sources are written that a test made: of one process, for tests that run beside each other remove theirs. */
export const CACHE: string = fileURLToPath(
  new URL(`../../../../.cache/scan/${process.pid}/`, import.meta.url),
);

/** The model that a source declares, for real. */
export const compiled = async (name: string, source: string): Promise<LinkedEntities> => {
  mkdirSync(CACHE, { recursive: true });
  const file = join(CACHE, `${name.replaceAll(/\W+/g, '-')}.ts`);
  writeFileSync(file, source);
  return ((await import(`${pathToFileURL(file).href}?${randomUUID()}`)) as { db: LinkedEntities }).db;
};

/** The API that a first API's source declares, over its model, for real. */
export const declared = async (
  name: string,
  source: string,
  apiText: string,
): Promise<{ office: AnyApi }> => {
  const folder = join(CACHE, name);
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'model.ts'), source);
  writeFileSync(join(folder, 'api.ts'), apiText);
  return (await import(pathToFileURL(join(folder, 'api.ts')).href)) as { office: AnyApi };
};
