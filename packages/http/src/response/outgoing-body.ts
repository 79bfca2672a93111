import { type GivenFacts, GriboError, type Situation, type Writer, writer } from 'gribo';
import { type BodyPlan, contentShape } from 'gribo/kit';
import type { OutgoingBody, OutgoingRows } from '../formats/format.js';

/** A body whose type is not known before it runs. */
export type PlannedBody = Parameters<typeof writer>[0];

/** Any body's writer. What fits it was made from the same plan. */
interface LooseWriter {
  readonly plan: Writer<PlannedBody>['plan'];
  object(data: unknown): unknown;
  json(data: unknown): string;
  bytes(data: unknown): Uint8Array;
  stream(data: unknown): ReadableStream<Uint8Array>;
}

/** A plan as the functions of the core take it. */
export const planned = (plan: BodyPlan): PlannedBody => ({ plan }) as PlannedBody;

export const looseWriter = (plan: BodyPlan, situation: Situation, given: GivenFacts): LooseWriter => {
  const write = writer(planned(plan), situation);
  // What data fits is known where the plan was declared.
  return {
    plan: write.plan,
    object: (data) => write.object(data as never, given),
    json: (data) => write.json(data as never, given),
    bytes: (data) => write.bytes(data as never, given),
    stream: (data) => write.stream(data as never, given),
  };
};

/** The rows of what a body is written from: a row, rows, or an answer with either in it. */
const rowsIn = (plan: BodyPlan, data: unknown): Iterable<object> => {
  if (plan.kind === 'shape') return [data as object];
  if (plan.kind === 'list') return data as Iterable<object>;
  const { items, item } = data as { items?: Iterable<object>; item?: object };
  return items ?? (item === undefined ? [] : [item]);
};

/** A whole body with its data, as formats take it. */
export const sending = (
  plan: BodyPlan,
  situation: Situation,
  given: GivenFacts,
  data: unknown,
): OutgoingBody => {
  const write = looseWriter(plan, situation, given);
  return {
    plan: write.plan,
    value: () => write.object(data),
    json: () => write.bytes(data),
    rows: () => {
      const one = looseWriter(contentShape(plan), situation, given);
      return Array.from(rowsIn(plan, data), (row, index) => madeAt((each) => one.object(each), row, index));
    },
    // Whoever declared the plan knows what its rows are.
    lines: (make) => make(planned(plan), situation).bytes(rowsIn(plan, data) as never, given),
  };
};

/** Rows are made in batches of so many, so that few promises are waited for. */
const BATCH = 512;

/** An error about a row with its place in the list: its writer knows of one row only. */
const atRow = (error: unknown, index: number): unknown => {
  if (!(error instanceof GriboError) || !error.code.startsWith('ROW_')) return error;
  const path = error.path.replace(/^[^.[]*/, (root) => `${root}[${index}]`);
  return new GriboError(
    error.code,
    path,
    error.message.replace(error.path, () => path),
    { cause: error.cause },
  );
};

/** Makes something of a row, or says which row it failed at. */
const madeAt = <T>(make: (row: object) => T, row: object, index: number): T => {
  try {
    return make(row);
  } catch (error) {
    throw atRow(error, index);
  }
};

async function* batched<T>(
  rows: Iterable<object> | AsyncIterable<object>,
  make: (row: object) => T,
): AsyncGenerator<readonly T[]> {
  let batch: T[] = [];
  let index = 0;
  const put = (row: object): readonly T[] | null => {
    batch.push(madeAt(make, row, index++));
    if (batch.length < BATCH) return null;
    const full = batch;
    batch = [];
    return full;
  };
  if (Symbol.asyncIterator in rows) {
    for await (const row of rows) {
      const full = put(row);
      if (full !== null) yield full;
    }
  } else {
    for (const row of rows) {
      const full = put(row);
      if (full !== null) yield full;
    }
  }
  if (batch.length > 0) yield batch;
}

/** A list whose rows are sent while they are read. */
export const streamSending = (
  plan: BodyPlan,
  situation: Situation,
  given: GivenFacts,
  rows: Iterable<object> | AsyncIterable<object>,
): OutgoingRows => {
  const write = looseWriter(plan, situation, given);
  const one = looseWriter(contentShape(plan), situation, given);
  return {
    plan: write.plan,
    json: () => write.stream(rows),
    batches: () => batched(rows, (row) => one.object(row)),
    lines: (make) => make(planned(plan), situation).stream(rows as never, given),
  };
};
