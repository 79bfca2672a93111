// Makes a JSON Schema of what each command prints with --json, from the type that it is printed by: packages/cli/schemas.
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { createGenerator } from 'ts-json-schema-generator';

const CLI = fileURLToPath(new URL('../packages/cli', import.meta.url));

/** What a file of a schema is called, by the type: `TraceJson` is `trace`. */
const nameOf = (type) => type.replace(/Json$/, '').toLowerCase();

/** The types that commands print by, as the sources use them: `printJson<TraceJson>(…)`. */
const typesIn = () => {
  const files = readdirSync(`${CLI}/src`, { recursive: true, encoding: 'utf8' });
  const texts = files
    .filter((file) => file.endsWith('.ts'))
    .map((file) => readFileSync(`${CLI}/src/${file}`, 'utf8'));
  return [
    ...new Set(texts.flatMap((text) => [...text.matchAll(/printJson<(\w+Json)>/g)].map(([, type]) => type))),
  ];
};

/** A name that a reference needs no escapes for: what is `Line<Taking>` to the compiler is `LineOfTaking`. */
const plainly = (name) => name.replaceAll(/[<,]/g, 'Of').replaceAll('>', '');

/** References to definitions as JSON Schema 2020-12 has them. */
const moved = (value) => {
  if (Array.isArray(value)) return value.map(moved);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) =>
      key === '$ref'
        ? [key, plainly(String(inner).replace('#/definitions/', '#/$defs/'))]
        : [key, moved(inner)],
    ),
  );
};

const named = (definitions) =>
  Object.fromEntries(Object.entries(definitions).map(([name, schema]) => [plainly(name), moved(schema)]));

/** The schemas, by the names of their files. */
export const schemas = () => {
  const generator = createGenerator({
    path: `${CLI}/dist/**/*.d.ts`,
    tsconfig: fileURLToPath(new URL('tsconfig.json', import.meta.url)),
    encodeRefs: false,
    skipTypeCheck: true,
    topRef: false,
    additionalProperties: false,
  });
  return Object.fromEntries(
    typesIn().map((type) => {
      const { $schema: _draft, definitions = {}, ...schema } = generator.createSchema(type);
      const { description, ...rest } = schema;
      const made = {
        $schema: 'https://json-schema.org/draft/2020-12/schema',
        title: type,
        ...(description === undefined ? {} : { description }),
        ...moved(rest),
        ...(Object.keys(definitions).length === 0 ? {} : { $defs: named(definitions) }),
      };
      return [`${nameOf(type)}.json`, `${JSON.stringify(made, null, 2)}\n`];
    }),
  );
};

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  rmSync(`${CLI}/schemas`, { recursive: true, force: true });
  mkdirSync(`${CLI}/schemas`);
  for (const [file, text] of Object.entries(schemas())) writeFileSync(`${CLI}/schemas/${file}`, text);
}
