import { expect } from 'chai';
import {
  type AnyBody,
  type GivenFacts,
  type GriboError,
  RowError,
  type ShapeOf,
  type Situation,
  writer,
} from '../index.js';
import { FACTS } from './random-shapes.js';

export const ENGINES = ['generated', 'interpreted'] as const;

interface LooseWriter {
  object(data: unknown): unknown;
  json(data: unknown): string;
  bytes(data: unknown): Uint8Array;
  stream(data: unknown): ReadableStream<Uint8Array>;
}

/** A writer that takes any data: tests hand over wrong rows on purpose. */
export const looseWriter = (
  body: AnyBody,
  engine: (typeof ENGINES)[number],
  situation: Situation = {},
  given: GivenFacts = KNOWN,
): LooseWriter => {
  const write = writer(body, situation, { engine });
  return {
    object: (data) => write.object(data as never, given),
    json: (data) => write.json(data as never, given),
    bytes: (data) => write.bytes(data as never, given),
    stream: (data) => write.stream(data as never, given),
  };
};

/** What is known of the caller where a test says nothing else. */
export const KNOWN: GivenFacts = { caller: FACTS, now: new Date('2026-03-01T00:00:00Z') };

/** What a body writes for some data, after making sure that all engines and outputs agree. */
export const written = (body: AnyBody, data: unknown, situation: Situation = {}): unknown => {
  const objects = ENGINES.map((engine) => {
    const write = looseWriter(body, engine, situation);
    const object = write.object(data);
    const json = write.json(data);
    expect(json, `${engine}: json`).to.equal(JSON.stringify(object));
    expect(Buffer.from(write.bytes(data)).toString('utf8'), `${engine}: bytes`).to.equal(json);
    return object;
  });
  const [generated, interpreted] = objects.map((object) => JSON.stringify(object));
  expect(generated, 'both engines').to.equal(interpreted);
  return JSON.parse(generated ?? 'null');
};

/** What one row of a shape writes. */
export const writtenRow = (shape: ShapeOf<unknown>, row: unknown, situation: Situation = {}): unknown =>
  written(shape, row, situation);

/** The error that every engine throws for some data, whatever it writes to. */
export const writeError = (body: AnyBody, data: unknown, situation: Situation = {}): RowError => {
  const errors = ENGINES.flatMap((engine) => {
    const write = looseWriter(body, engine, situation);
    return [() => write.object(data), () => write.json(data), () => write.bytes(data)].map(thrownBy);
  });
  const [first] = errors;
  if (!(first instanceof RowError)) throw new Error(`expected a RowError, got ${String(first)}`);
  for (const error of errors) expect((error as Error).message).to.equal(first.message);
  return first;
};

/** What a function throws; fails the test where it does not. */
export const thrownBy = (run: () => unknown): unknown => {
  try {
    run();
  } catch (error) {
    return error;
  }
  throw new Error('expected an error, nothing was thrown');
};

/** The message of the declaration error that a function throws. */
export const declarationError = (run: () => unknown): string => {
  const error = thrownBy(run) as GriboError;
  expect(error.code).to.equal('DECLARATION');
  return error.message;
};
