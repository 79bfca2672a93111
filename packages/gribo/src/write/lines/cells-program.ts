import type { SourceWriter } from '../../codegen/source-writer.js';
import type { ResolvedShape } from '../../plan/resolved.js';
import { FunctionBody } from '../generated/function-body.js';
import { type WrittenForm, writeKind, writtenPlace } from '../generated/kinds.js';
import type { LoadedField, LoadedValue } from '../generated/loaded-fields.js';
import type { Local } from '../generated/row-loads.js';
import { valueCell } from './cell-text.js';
import { flatColumns } from './flat-columns.js';

/** The functions of other shapes that a program calls. */
export interface Functions {
  /** The one that writes its row as cells. */
  cells(shape: ResolvedShape): string;
  /** The one that writes its row as JSON. */
  json(shape: ResolvedShape): string;
}

/** The call that appends a text as a cell to the bytes `b`, their view `d`, at `p`; null for truths, which are literals. */
const CELL_CALLS: Readonly<Record<WrittenForm, ((place: string, isGuarded: boolean) => string) | null>> = {
  text: (place, isGuarded) => `${isGuarded ? 'guardedCell' : 'cell'}(b,d,${place},p)`,
  ascii: (place) => `plainCell(b,${place},p)`,
  number: (place) => `number(b,${place},p)`,
  truth: null,
  moment: (place) => `momentDigits(d,${place},p)`,
  base64: (place, isGuarded) => `base64Cell(b,${place},p,${isGuarded})`,
  json: (place, isGuarded) => `jsonCell(b,${place},p,${isGuarded})`,
  list: (place) => `cell(b,d,${place},p)`,
};

const widthOf = (value: LoadedValue): number => {
  switch (value.kind) {
    case 'group':
      return value.fields.reduce((width, field) => width + widthOf(field.value), 0);
    case 'row':
    case 'first':
      return flatColumns(value.shape).length;
    case 'value':
    case 'literal':
    case 'rows':
      return 1;
    default:
      return value satisfies never;
  }
};

/** Generates the function that writes one shape's row as cells of CSV: `(sink, row, position, facts) => position`. */
export class ShapeCells {
  readonly #body: FunctionBody;
  readonly #functions: Functions;
  readonly #isGuarded: boolean;

  constructor(out: SourceWriter, functions: Functions, isGuarded: boolean) {
    this.#body = new FunctionBody(out);
    this.#functions = functions;
    this.#isGuarded = isGuarded;
  }

  emit(name: string, shape: ResolvedShape, out: SourceWriter): void {
    this.#body.emit(name, shape, out, (fields) => this.#writeFields(fields));
  }

  #writeFields(fields: readonly LoadedField[]): void {
    const wide = fields.filter(({ value }) => widthOf(value) > 0);
    wide.forEach(({ present, value }, index) => {
      if (index > 0) this.#body.literal.add(',');
      this.#if(present, widthOf(value), () => this.#write(value));
    });
  }

  /** Cells that are empty where a condition does not hold; null: it always does. */
  #if(condition: string | null, width: number, write: () => void): void {
    if (condition === null) return write();
    this.#body.block(`if(${condition})`, write);
    if (width > 1) this.#body.block('else', () => this.#body.literal.add(','.repeat(width - 1)));
  }

  #write(value: LoadedValue): void {
    switch (value.kind) {
      case 'literal':
        return this.#body.literal.add(valueCell(value.value, this.#isGuarded));
      case 'value':
        return this.#writeValue(value.local);
      case 'group':
        return this.#writeFields(value.fields);
      case 'row': {
        const isThere = value.nullable ? `${value.local}!==null` : null;
        return this.#if(isThere, widthOf(value), () =>
          this.#body.call(this.#functions.cells(value.shape), value.local),
        );
      }
      case 'first': {
        const { name } = value.local;
        const isThere = `${name}!==null&&${name}.length>0`;
        return this.#if(isThere, widthOf(value), () =>
          this.#body.call(this.#functions.cells(value.shape), `${name}[0]`),
        );
      }
      case 'rows': {
        const { name, nullable } = value.local;
        return this.#if(nullable ? `${name}!==null` : null, 1, () => this.#rows(value.shape, name));
      }
      default:
        return value satisfies never;
    }
  }

  #writeValue(local: Local): void {
    const { name, type, nullable } = local;
    const { form } = writeKind(type);
    // Its JSON text says whether it is null.
    const isThere = nullable && form !== 'json' ? `${name}!==null` : null;
    this.#if(isThere, 1, () => {
      const call = CELL_CALLS[form]?.(writtenPlace(local), this.#isGuarded) ?? null;
      if (call === null) {
        this.#body.block(`if(${name})`, () => this.#body.literal.add('true'));
        return this.#body.block('else', () => this.#body.literal.add('false'));
      }
      this.#body.literal.flush();
      this.#body.writes.line(`p=${call};`);
    });
  }

  /** The rows of a list: JSON text in one cell. */
  #rows(shape: ResolvedShape, rows: string): void {
    const { literal, writes } = this.#body;
    this.#body.block('', () => {
      writes.line('const q=p;');
      this.#body.list(this.#functions.json(shape), rows);
      literal.flush();
      writes.line('p=quotedFrom(S,q,p);');
      this.#body.makeRoom();
    });
  }
}
