import type { SourceWriter } from '../../codegen/source-writer.js';
import type { ResolvedShape } from '../../plan/resolved.js';
import { FunctionBody } from './function-body.js';
import { type WrittenForm, writeKind, writtenPlace } from './kinds.js';
import type { LoadedField, LoadedValue } from './loaded-fields.js';
import type { Local } from './row-loads.js';

/** How the call begins that appends a text to the bytes `b`, their view `d`, at `p`; null for truths, which are literals. */
const JSON_CALLS: Readonly<Record<WrittenForm, string | null>> = {
  text: 'text(b,d,',
  ascii: 'ascii(b,',
  number: 'number(b,',
  truth: null,
  moment: 'moment(d,',
  base64: 'base64(b,',
  json: 'raw(b,',
  list: 'raw(b,',
};

/** Generates the function that writes one shape's row as JSON bytes: `(sink, row, position) => position`. */
export class ShapeBytes {
  readonly #body: FunctionBody;
  readonly #functionOf: (shape: ResolvedShape) => string;

  constructor(out: SourceWriter, functionOf: (shape: ResolvedShape) => string) {
    this.#body = new FunctionBody(out);
    this.#functionOf = functionOf;
  }

  emit(name: string, shape: ResolvedShape, out: SourceWriter): void {
    this.#body.emit(name, shape, out, (fields) => this.#writeFields(fields));
  }

  #writeFields(fields: readonly LoadedField[]): void {
    const isSure = (field: LoadedField): boolean => field.present === null;
    this.#body.object(fields, isSure, (...placed) => this.#writeField(...placed));
  }

  #writeField({ name, present, value }: LoadedField, before: string, after: string): void {
    const write = (): void => {
      this.#body.literal.add(`${before}${JSON.stringify(name)}:`);
      this.#write(value);
      this.#body.literal.add(after);
    };
    if (present === null) write();
    else this.#body.block(`if(${present})`, write);
  }

  #orNull(nullable: boolean, isNull: string, write: () => void): void {
    if (!nullable) return write();
    this.#body.block(`if(${isNull})`, () => this.#body.literal.add('null'));
    this.#body.block('else', write);
  }

  #write(value: LoadedValue): void {
    switch (value.kind) {
      case 'literal':
        return this.#body.literal.add(JSON.stringify(value.value));
      case 'value':
        return this.#writeValue(value.local);
      case 'group':
        return this.#writeFields(value.fields);
      case 'row':
        return this.#orNull(value.nullable, `${value.local}===null`, () =>
          this.#body.call(this.#functionOf(value.shape), value.local),
        );
      case 'first': {
        const { name } = value.local;
        const isNull = `${name}===null||${name}.length===0`;
        return this.#orNull(true, isNull, () => this.#body.call(this.#functionOf(value.shape), `${name}[0]`));
      }
      case 'rows':
        return this.#orNull(value.local.nullable, `${value.local.name}===null`, () =>
          this.#body.list(this.#functionOf(value.shape), value.local.name),
        );
      default:
        return value satisfies never;
    }
  }

  #writeValue(local: Local): void {
    const { name, ready, type } = local;
    if (writeKind(type).form === 'json') {
      this.#body.literal.flush();
      return this.#body.writes.line(`p=raw(b,${ready},p);`);
    }
    this.#orNull(local.nullable, `${name}===null`, () => this.#writePresent(local));
  }

  #writePresent(local: Local): void {
    const call = JSON_CALLS[writeKind(local.type).form];
    if (call === null) {
      this.#body.block(`if(${local.name})`, () => this.#body.literal.add('true'));
      return this.#body.block('else', () => this.#body.literal.add('false'));
    }
    this.#body.literal.flush();
    this.#body.writes.line(`p=${call}${writtenPlace(local)},p);`);
  }
}
