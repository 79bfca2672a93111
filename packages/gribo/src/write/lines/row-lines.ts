import type { Generating } from '../../codegen/engine.js';
import type { ResolvedShape } from '../../plan/resolved.js';
import type { Sink } from '../bytes/sink.js';
import type { WriteRow } from '../generated/generate.js';
import { Interpreter } from '../interpreted/interpret.js';
import { LateProgram } from '../late-program.js';
import type { Facts } from '../read-value.js';
import { RowEngine } from '../row-engine.js';
import type { RowForm } from '../stream-rows.js';
import { cellText, rowCells } from './cell-text.js';
import { flatColumns } from './flat-columns.js';
import { generateCells } from './generate-cells.js';

/** Appends rows of one shape, each as a line with its end. */
export interface RowLines {
  readonly isGenerated: boolean;
  /** The line before all rows, with its end; empty where there is none. */
  readonly head: string;
  /** What each line is, and how it ends. */
  readonly as: RowForm['as'];
  readonly end: string;
  append(sink: Sink, row: unknown, facts: Facts): void;
}

const RETURN = 13;
const NEWLINE = 10;

/** JSON texts. */
export class JsonRowLines implements RowLines {
  readonly #rows: RowEngine;
  readonly head = '';
  readonly as = 'json';
  readonly end = '\n';

  constructor(shape: ResolvedShape, generating: Generating) {
    this.#rows = new RowEngine(shape, generating);
  }

  get isGenerated(): boolean {
    return this.#rows.isGenerated;
  }

  append(sink: Sink, row: unknown, facts: Facts): void {
    this.#rows.append(sink, row, facts);
    sink.byte(NEWLINE);
  }
}

/** Cells of CSV, below their names. */
export class CsvRowLines implements RowLines {
  readonly head: string;
  readonly as: RowForm['as'];
  readonly end = '\r\n';
  readonly #write: LateProgram<WriteRow>;

  constructor(shape: ResolvedShape, generating: Generating, isGuarded: boolean) {
    this.as = isGuarded ? 'guarded cells' : 'cells';
    const columns = flatColumns(shape);
    this.head = `${columns.map(({ name }) => cellText(name, isGuarded)).join()}\r\n`;
    const interpret = (): WriteRow => {
      const make = new Interpreter().shape(shape);
      return (sink, row, _position, facts) => {
        sink.text(rowCells(columns, make(row, facts), isGuarded));
        return sink.position;
      };
    };
    this.#write = new LateProgram({ interpret, generate: () => generateCells(shape, isGuarded) }, generating);
  }

  get isGenerated(): boolean {
    return this.#write.isGenerated;
  }

  append(sink: Sink, row: unknown, facts: Facts): void {
    const end = this.#write.next()(sink, row, sink.position, facts);
    // Every program leaves room for so much.
    sink.buffer[end] = RETURN;
    sink.buffer[end + 1] = NEWLINE;
    sink.position = end + 2;
  }
}
