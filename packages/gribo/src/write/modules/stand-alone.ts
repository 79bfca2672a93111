import { RowError } from '../../errors/row-error.js';
import type { FactPlan } from '../../plan/condition.js';
import { factsFor, type GivenFacts } from '../../values/facts-for.js';
import { Misfit } from '../../values/misfit.js';
import { BodyWriter } from '../body-writer.js';
import type { Sink } from '../bytes/sink.js';
import type { MakeRow, WriteRow } from '../generated/generate.js';
import { Halt } from '../generated/halt.js';
import type { Facts } from '../read-value.js';
import type { RowWriting } from '../row-engine.js';

/** The two programs of a shape, as the module has them. */
class ModuleEngine implements RowWriting {
  readonly isGenerated = true;
  readonly #write: WriteRow;
  readonly #make: MakeRow;

  constructor(write: WriteRow, make: MakeRow) {
    this.#write = write;
    this.#make = make;
  }

  object(row: unknown, facts: Facts): unknown {
    return this.#make(row, facts);
  }

  append(sink: Sink, row: unknown, facts: Facts): void {
    sink.position = this.#write(sink, row, sink.position, facts);
  }
}

const hint = ', got another; the library itself says which';

/** The words for what a program stumbled over: there is no interpreter here to look closer. */
const explain =
  (name: string) =>
  (error: unknown, _row: unknown, where: string): unknown => {
    if (error instanceof Misfit) return error.toRowError(name + where);
    if (!(error instanceof Halt)) return error;
    // Inside a nested shape the member begins with that shape's name.
    const isOwn = error.member.startsWith(`${name}.`) || error.member === name;
    const path = isOwn ? name + where + error.member.slice(name.length) : error.member;
    return new RowError('ROW_TYPE', path, 'expected a value of its type', hint);
  };

/** A stand-alone serializer: `object`, `json`, `bytes` and `stream`, as those of a writer. */
export interface StandAlone {
  readonly object: (data: unknown, given?: GivenFacts) => unknown;
  readonly json: (data: unknown, given?: GivenFacts) => string;
  readonly bytes: (data: unknown, given?: GivenFacts) => Uint8Array;
  readonly stream: (data: unknown, given?: GivenFacts) => ReadableStream<Uint8Array>;
}

/**
 * Joins the two programs of a module to a serializer.
 *
 * @param isList whether the body is a list of rows
 * @param name what errors call the body
 * @param wanted the facts about the caller that it needs
 */
export const standAlone = (
  isList: boolean,
  name: string,
  write: WriteRow,
  make: MakeRow,
  wanted: readonly FactPlan[] = [],
): StandAlone => {
  const writing = new BodyWriter(isList, name, new ModuleEngine(write, make), explain(name));
  return {
    object: (data, given) => writing.object(data, factsFor(wanted, given)),
    json: (data, given) => writing.json(data, factsFor(wanted, given)),
    bytes: (data, given) => writing.bytes(data, factsFor(wanted, given)),
    stream: (data, given) => writing.stream(data, factsFor(wanted, given)),
  };
};
