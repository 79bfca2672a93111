import type { SourceWriter } from '../../codegen/source-writer.js';
import { ProgramBody } from '../generated/program-body.js';
import { valueCell } from '../lines/cell-text.js';
import { packedKind } from './packed-kinds.js';
import type { PackedField, PackedStep, PackedValue } from './plan-packed.js';
import { packField } from './unpack.js';

type FieldValue = Extract<PackedValue, { kind: 'field' }>;

/** What a value may take besides six bytes for each of its field: a number in all its digits. */
const MOST_MORE = 26;

const encoder = new TextEncoder();

/** Where a field starts and ends. */
const spanOf = (place: number): string => `O[${place}],O[${place + 1}]-1`;

/** What the programs over packed rows have in common: `(sink, bytes, starts, position) => position`, below zero where a row is to be made into values. */
export abstract class PackedProgram {
  readonly #out: SourceWriter;
  protected readonly body: ProgramBody;
  readonly #nulls = new Set<number>();
  #values = 0;

  constructor(out: SourceWriter) {
    this.#out = out;
    this.body = new ProgramBody(out);
  }

  /** @param end what stands behind each row */
  emit(fields: readonly PackedField[], width: number, end: string): void {
    const { literal, writes } = this.body;
    this.row(fields);
    literal.add(end);
    literal.flush();
    const out = this.#out;
    out.line('return function(S,B,O,p){');
    out.line(`const n=${literal.total + MOST_MORE * this.#values}+6*(O[${width}]-O[0]);`);
    out.line('if(p+n>S.size)S.reserve(p,n);const b=S.buffer,d=S.view;');
    for (const place of this.#nulls) out.line(`const n${place}=isNull(B,${spanOf(place)});`);
    out.append(writes);
    out.line('return p;}');
  }

  protected abstract row(fields: readonly PackedField[]): void;

  /** A field that is there. */
  protected abstract field(value: FieldValue): void;

  /** A value that is known, as it is written. */
  protected abstract written(value: unknown): string;

  /** A value that is there. */
  protected value(value: PackedValue): void {
    switch (value.kind) {
      case 'literal':
        return this.body.literal.add(this.written(value.value));
      case 'field':
        return this.field(value);
      case 'group':
      case 'row':
        return this.row(value.fields);
      default:
        return value satisfies never;
    }
  }

  /** When there is nothing behind links, as an expression; null where there always is something. */
  #absent(steps: readonly PackedStep[]): string | null {
    const may: string[] = [];
    for (const { present, nullable } of steps) {
      const isNone = this.#isNull(present);
      if (nullable) may.push(isNone);
      else this.body.writes.line(`if(${[...may.map((one) => `!${one}`), isNone].join('&&')})return -1;`);
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
    this.body.literal.flush();
    const taken = ['b', 'p', 'B', spanOf(place), ...given];
    this.body.writes.line(`p=${helper}(${taken.join()});if(p<0)return p;`);
  }

  /** Copies a field by the helper of its kind. */
  protected copyKind(value: FieldValue): void {
    const { type } = value;
    if (type.kind === 'oneOf') {
      const choices = type.choices.map((choice) => ({
        field: encoder.encode(packField(choice)),
        written: encoder.encode(this.written(choice)),
      }));
      return this.copy('choice', value, [this.#out.constants.name(choices)]);
    }
    const kind = packedKind(type);
    // Plans have no fields of kinds that are not copied.
    if (kind !== undefined)
      this.copy(kind.copies, value, kind.given === undefined ? [] : [String(kind.given(type))]);
  }
}

/** Rows as JSON texts. */
export class PackedJson extends PackedProgram {
  protected override row(fields: readonly PackedField[]): void {
    const isSure = (field: PackedField): boolean => !field.unlessNull;
    this.body.object(fields, isSure, (...placed) => this.#member(...placed));
  }

  #member({ name, unlessNull, value }: PackedField, before: string, after: string): void {
    const isNone = this.isNone(value);
    const write = (): void => {
      this.body.literal.add(`${before}${JSON.stringify(name)}:`);
      if (isNone === null || unlessNull) this.value(value);
      else {
        this.body.block(`if(${isNone})`, () => this.body.literal.add('null'));
        this.body.block('else', () => this.value(value));
      }
      this.body.literal.add(after);
    };
    if (!unlessNull) return write();
    if (value.kind === 'literal' && value.value === null) return;
    if (isNone === null) return write();
    this.body.block(`if(!(${isNone}))`, write);
  }

  protected override field(value: FieldValue): void {
    const quote = packedKind(value.type)?.isQuoted === true ? '"' : '';
    this.body.literal.add(quote);
    this.copyKind(value);
    this.body.literal.add(quote);
  }

  protected override written(value: unknown): string {
    return JSON.stringify(value);
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
      if (index > 0) this.body.literal.add(',');
      this.#cells(value);
    });
  }

  #cells(value: PackedValue): void {
    const isNone = this.isNone(value);
    if (isNone === null) return this.value(value);
    this.body.block(`if(${isNone})`, () => this.body.literal.add(','.repeat(widthOf(value) - 1)));
    this.body.block('else', () => this.value(value));
  }

  protected override field(value: FieldValue): void {
    const { kind } = value.type;
    if (kind === 'text') this.copy(this.#isGuarded ? 'guardedCell' : 'cell', value);
    else if (kind === 'json') this.copy('jsonCell', value, [String(this.#isGuarded)]);
    else this.copyKind(value);
  }

  protected override written(value: unknown): string {
    return valueCell(value, this.#isGuarded);
  }
}
