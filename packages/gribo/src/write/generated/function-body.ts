import type { SourceWriter } from '../../codegen/source-writer.js';
import type { ResolvedShape } from '../../plan/resolved.js';
import { type LoadedField, LoadedFields } from './loaded-fields.js';
import { ProgramBody } from './program-body.js';
import { Reservation } from './reservation.js';

/** What the functions have in common that write one shape's row as bytes: `(sink, row, position, facts) => position`. */
export class FunctionBody extends ProgramBody {
  readonly #reservation = new Reservation();
  readonly #loaded: LoadedFields;

  constructor(out: SourceWriter) {
    super(out);
    this.#loaded = new LoadedFields(out.part(), this.#reservation);
  }

  /** @param write writes the code of the members, once all of them are loaded */
  emit(
    name: string,
    shape: ResolvedShape,
    out: SourceWriter,
    write: (fields: readonly LoadedField[]) => void,
  ): void {
    write(this.#loaded.load(shape));
    this.literal.flush();
    this.#loaded.emitHead(name, shape, out);
    this.#reservation.emit(this.literal.total, out);
    out.line('let b=S.buffer,d=S.view;');
    out.append(this.writes);
    out.line('return p;}');
  }

  /** Appends a row of another shape by its function, which makes room for itself. */
  call(name: string, row: string): void {
    this.literal.flush();
    this.writes.line(`p=${name}(S,${row},p,F);`);
    this.makeRoom();
  }

  /** Appends rows of another shape as a JSON list. */
  list(name: string, rows: string): void {
    this.literal.add('[');
    this.literal.flush();
    const call = `p=${name}(S,${rows}[i],p,F);`;
    this.writes.line(`for(let i=0,e=${rows}.length;i<e;i++){if(i>0)S.buffer[p++]=44;${call}}`);
    this.makeRoom();
    this.literal.add(']');
  }

  /** Makes room for the rest, after others have written: the sink may have other memory then. */
  makeRoom(): void {
    this.writes.line(`${this.#reservation.makeRoom()}b=S.buffer;d=S.view;`);
  }
}
