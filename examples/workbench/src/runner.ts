/*
 * Runs edited shapes over the harbour's sample rows. It is put into a worker of a frame without an
 * origin: it reaches neither the page around it nor any server, and can be ended.
 */
import { db } from '@gribo-examples/harbour/src/model.js';
import * as gribo from 'gribo';
import type { Job, Made, Result } from './result.js';

const ROWS = 4;

type AnyModel = Parameters<typeof gribo.samples>[0];

/** Rows by the names of their entities. */
type OwnRows = Readonly<Record<string, readonly object[]>>;

/** Sample rows; of entities that the edit has rows for, those and no others. */
const storeOf = (model: AnyModel, own: OwnRows): gribo.MemoryStore => {
  const rows = Object.fromEntries(Object.entries(own).map(([name, { length }]) => [name, length]));
  const made = gribo.samples(model, { seed: 'merrow', own, rows });
  return gribo.memoryStore(model as typeof db, made as never);
};

const usual = storeOf(db, {});

type AnyShape = gribo.ShapeOf<unknown>;

const MODULES: Readonly<Record<string, unknown>> = { gribo, './model.js': { db } };

/** What the edited code exports. */
const exportsOf = (code: string): Readonly<Record<string, unknown>> => {
  const exports: Record<string, unknown> = {};
  const require = (name: string): unknown => {
    if (name in MODULES) return MODULES[name];
    throw new Error(`There is no module "${name}" here. There are: ${Object.keys(MODULES).join(', ')}.`);
  };
  new Function('require', 'exports', `"use strict";\n${code}`)(require, exports);
  return exports;
};

const isShape = (value: unknown): value is AnyShape =>
  typeof value === 'function' && 'plan' in value && (value.plan as { kind?: string }).kind === 'shape';

const loadLines = (plan: gribo.LoadPlan, indent = ''): readonly string[] => [
  `${indent}${plan.table}: ${plan.columns.map(({ stored }) => stored).join(', ')}`,
  ...plan.links.flatMap(({ link, selection, plan: inner }) => {
    const most = selection.limit === null ? '' : `, at most ${selection.limit}`;
    const kind = link.kind === 'toOne' ? 'the row' : 'the rows';
    return [`${indent}  ${kind} behind ${link.name}${most}`, ...loadLines(inner, `${indent}    `)];
  }),
  ...plan.figures.map(({ link, of }) =>
    of === null
      ? `${indent}  the count of ${link.name}`
      : `${indent}  the ${of.how} of ${link.name}.${of.column.name}`,
  ),
];

const bytesOf = (value: unknown): number =>
  new TextEncoder().encode(
    JSON.stringify(value, (_name, inner: unknown) => (typeof inner === 'bigint' ? String(inner) : inner)),
  ).length;

/** The stored columns of rows, with nothing behind links. */
const stored = (shape: AnyShape, rows: readonly object[]): readonly object[] =>
  rows.map((row) =>
    Object.fromEntries(
      shape.plan.entity.columns.map(({ name }) => [name, (row as Record<string, unknown>)[name]]),
    ),
  );

const make = ({ code, shape: wanted, audience, endpoint }: Job): Made => {
  const exported = exportsOf(code);
  const shapes = Object.entries(exported).filter((entry): entry is [string, AnyShape] => isShape(entry[1]));
  const [name, shape] = shapes.find(([found]) => found === wanted) ?? shapes.at(-1) ?? [];
  if (name === undefined || shape === undefined)
    throw new Error('Export a shape: export const Card = shape(db.vessel, (v) => ({ … }))');
  const { model, rows: own } = exported as { readonly model?: AnyModel; readonly rows?: OwnRows };
  const store = model === undefined && own === undefined ? usual : storeOf(model ?? db, own ?? {});
  const situation = {
    ...(audience === '' ? {} : { audience }),
    ...(endpoint === '' ? {} : { endpoint }),
  };
  const body = gribo.list(shape);
  const plan = gribo.loadPlan(body, situation);
  const rows = Array.from(store.stream(plan, { limit: ROWS }));
  return {
    shapes: shapes.map(([found]) => found),
    shape: name,
    response: JSON.stringify(gribo.writer(body, situation).object(rows), null, 2),
    schema: JSON.stringify(gribo.jsonSchema(body, situation), null, 2),
    load: loadLines(plan),
    weight: gribo.weigh(body, rows, situation),
    storedBytes: bytesOf(stored(shape, rows)),
  };
};

const run = (job: Job): Result => {
  try {
    return { id: job.id, ok: true, made: make(job) };
  } catch (error) {
    return { id: job.id, ok: false, message: error instanceof Error ? error.message : String(error) };
  }
};

self.onmessage = (event: MessageEvent<Job>): void => {
  self.postMessage(run(event.data));
};
