import type { SourceWriter } from '../../codegen/source-writer.js';
import { LiteralBytes } from '../generated/literal-bytes.js';
import { valueCell } from '../lines/cell-text.js';
import { packedKind } from './packed-kinds.js';
import type { PackedField, PackedStep, PackedValue } from './plan-packed.js';
import { packField } from './unpack.js';

type FieldValue = Extract<PackedValue, { kind: 'field' }>;

/** What a value may take besides six bytes for each of its field: a number in all its digits. */
const MOST_MORE = 26;

const encoder = new TextEncoder();

/** What the programs over packed rows have in common: `(sink, bytes, ends, position) => position`, below zero where a row is to be made into values. */
export abstract class PackedProgram {
  readonly out: SourceWriter;
  protected readonly writes: SourceWriter;
  protected readonly literal: LiteralBytes;
  readonly #nulls = new Set<number>();
  #values = 0;

  constructor(out: SourceWriter) {
    this.out = out;
    this.writes = out.part();
    this.literal = new LiteralBytes(this.writes);
  }

  /** @param end what stands behind each row */
  emit(fields: readonly PackedField[], width: number, end: string): void {
    this.row(fields);
    this.literal.add(end);
    this.literal.flush();
    const { out } = this;
    out.line('return function(S,B,O,p){');
    out.line(`const n=${this.literal.total + MOST_MORE * this.#values}+6*(O[${width}]-O[0]);`);
    out.line('if(p+n>S.size)S.reserve(p,n);const b=S.buffer,d=S.view;');
    for (const place of this.#nulls) out.line(`const n${place}=isNull(B,${spanOf(place)});`);
    out.append(this.writes);
    out.line('return p;}');
  }

  protected abstract row(fields: readonly PackedField[]): void;

  /** A value that is there. */
  protected abstract present(value: FieldValue): void;

  /** A block of the program: literals must not move across its borders. */
  protected block(head: string, inside: () => void): void {
    this.literal.flush();
    this.writes.line(`${head}{`);
    inside();
    this.literal.flush();
    this.writes.line('}');
  }

  /** When there is nothing behind links, as an expression; null where there always is something. */
  #absent(steps: readonly PackedStep[]): string | null {
    const may: string[] = [];
    for (const { present, nullable } of steps) {
      const isNone = this.#isNull(present);
      if (nullable) may.push(isNone);
      else this.writes.line(`if(${[...may.map((one) => `!${one}`), isNone].join('&&')})return -1;`);
    }
    return may.length === 0 ? null : may.join('||');
  }

  #isNull(place: number): string {
    this.#nulls.add(place);
    return `n${place}`;
  }

  /** When a value is null, as an expression; null where it never is. */
  protected isNone(value: PackedValue): string | null {
    if (value.kind === 'row') return this.#absent(value.steps);
    if (value.kind !== 'field') return null;
    const parts = [this.#absent(value.steps), value.nullable ? this.#isNull(value.place) : null];
    const some = parts.filter((part) => part !== null);
    return some.length === 0 ? null : some.join('||');
  }

  /** Calls the helper that copies a field; `given` is what it is told besides. */
  protected copy(helper: string, { place }: FieldValue, given: readonly string[] = []): void {
    this.#values++;
    this.literal.flush();
    const taken = ['b', 'p', 'B', spanOf(place), ...given];
    this.writes.line(`p=${helper}(${taken.join()});if(p<0)return p;`);
  }

  /** Copies what is no text. */
  protected copyKind(value: FieldValue): void {
    const kind = packedKind(value.type);
    const { type } = value;
    if (type.kind === 'oneOf') {
      const choices = type.choices.map((choice) => ({
        field: encoder.encode(packField(choice)),
        written: encoder.encode(this.written(choice)),
      }));
      return this.copy('choice', value, [this.out.constants.name(choices)]);
    }
    if (kind === undefined) return;
    this.copy(kind.copies, value, kind.given === undefined ? [] : [String(kind.given(type))]);
  }

  /** A text as it is written. */
  protected abstract written(text: string): string;
}

/** Where a field starts and ends. */
const spanOf = (place: number): string => `O[${place}],O[${place + 1}]-1`;

/** Rows as JSON texts. */
export class PackedJson extends PackedProgram {
  protected override row(fields: readonly PackedField[]): void {
    const firstSure = fields.findIndex(({ unlessNull }) => !unlessNull);
    this.literal.add('{');
    fields.forEach((field, index) => {
      const before = firstSure !== -1 && index > firstSure ? ',' : '';
      const after = firstSure === -1 || index < firstSure ? ',' : '';
      this.#field(field, before, after);
    });
    if (firstSure === -1 && fields.length > 0) {
      this.literal.flush();
      this.writes.line('if(b[p-1]===44)p--;');
    }
    this.literal.add('}');
  }

  #field({ name, unlessNull, value }: PackedField, before: string, after: string): void {
    const isNone = this.isNone(value);
    const write = (): void => {
      this.literal.add(`${before}${JSON.stringify(name)}:`);
      if (isNone === null || unlessNull) this.#value(value);
      else {
        this.block(`if(${isNone})`, () => this.literal.add('null'));
        this.block('else', () => this.#value(value));
      }
      this.literal.add(after);
    };
    if (!unlessNull) return write();
    if (value.kind === 'literal' && value.value === null) return;
    if (isNone === null) return write();
    this.block(`if(!(${isNone}))`, write);
  }

  #value(value: PackedValue): void {
    switch (value.kind) {
      case 'literal':
        return this.literal.add(JSON.stringify(value.value));
      case 'field':
        return this.present(value);
      case 'group':
      case 'row':
        return this.row(value.fields);
      default:
        return value satisfies never;
    }
  }

  protected override present(value: FieldValue): void {
    const isQuoted = packedKind(value.type)?.isQuoted === true;
    if (isQuoted) this.literal.add('"');
    this.copyKind(value);
    if (isQuoted) this.literal.add('"');
  }

  protected override written(text: string): string {
    return JSON.stringify(text);
  }
}

const widthOf = (value: PackedValue): number =>
  value.kind === 'group' || value.kind === 'row'
    ? value.fields.reduce((width, field) => width + widthOf(field.value), 0)
    : 1;

/** Rows as cells of CSV. */
export class PackedCells extends PackedProgram {
  readonly #isGuarded: boolean;

  constructor(out: SourceWriter, isGuarded: boolean) {
    super(out);
    this.#isGuarded = isGuarded;
  }

  protected override row(fields: readonly PackedField[]): void {
    const wide = fields.filter(({ value }) => widthOf(value) > 0);
    wide.forEach(({ value }, index) => {
      if (index > 0) this.literal.add(',');
      this.#cells(value);
    });
  }

  #cells(value: PackedValue): void {
    const isNone = this.isNone(value);
    if (isNone === null) return this.#value(value);
    this.block(`if(${isNone})`, () => this.literal.add(','.repeat(widthOf(value) - 1)));
    this.block('else', () => this.#value(value));
  }

  #value(value: PackedValue): void {
    switch (value.kind) {
      case 'literal':
        return this.literal.add(valueCell(value.value, this.#isGuarded));
      case 'field':
        return this.present(value);
      case 'group':
      case 'row':
        return this.row(value.fields);
      default:
        return value satisfies never;
    }
  }

  protected override present(value: FieldValue): void {
    const { kind } = value.type;
    if (kind === 'text') this.copy(this.#isGuarded ? 'guardedCell' : 'cell', value);
    else if (kind === 'json') this.copy('jsonCell', value, [String(this.#isGuarded)]);
    else this.copyKind(value);
  }

  protected override written(text: string): string {
    return valueCell(text, this.#isGuarded);
  }
}
