import type { SourceWriter } from '../../codegen/source-writer.js';
import { SLACK } from '../bytes/sink.js';
import { writeKind } from './kinds.js';
import type { Local } from './row-loads.js';

/** A local whose length says how much room a value needs; not sure: it may be null or never set. */
interface Measured {
  readonly from: string;
  readonly sure: boolean;
}

/** How much room a row needs at most, but for what nested shapes reserve for themselves. */
export class Reservation {
  readonly #texts: Measured[] = [];
  readonly #blobs: Measured[] = [];
  #fixed = SLACK;

  /** @param always whether the value is loaded for every row */
  measure(local: Local, always: boolean): void {
    const { most, measured } = writeKind(local.type);
    const bytes = most?.(local.type);
    if (bytes !== undefined) {
      this.#fixed += bytes;
      return;
    }
    // The length of an empty text leaves no room for its quotes, and what a spreadsheet might run has one sign more.
    this.#fixed += 3;
    const list = measured === 'bytes' ? this.#blobs : this.#texts;
    list.push({ from: measured === 'ready' ? local.ready : local.name, sure: !local.nullable && always });
  }

  /** @param literals the bytes of what is the same for every row */
  emit(literals: number, out: SourceWriter): void {
    out.line(`let f=${this.#fixed + literals};`);
    for (const { from, sure } of this.#blobs) {
      out.line(sure ? `f+=base64Room(${from});` : `if(${from}!=null)f+=base64Room(${from});`);
    }
    const sure = this.#texts.filter((text) => text.sure).map(({ from }) => `${from}.length`);
    out.line(sure.length === 0 ? 'let n=f;' : `let n=f+6*(${sure.join('+')});`);
    for (const { from } of this.#texts.filter((text) => !text.sure)) {
      out.line(`if(${from}!=null)n+=6*${from}.length;`);
    }
    out.line(this.makeRoom());
  }

  /** The quick estimate first; only where it does not fit are the texts looked at. */
  makeRoom(): string {
    return `if(p+n>S.size)room(S,p,f,[${this.#texts.map(({ from }) => from).join()}]);`;
  }
}
