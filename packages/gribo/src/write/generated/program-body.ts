import type { SourceWriter } from '../../codegen/source-writer.js';
import { LiteralBytes } from './literal-bytes.js';

/** The code of a function that writes a row as bytes: `b` and `d` are the sink's bytes and their view, `p` the position. */
export class ProgramBody {
  readonly writes: SourceWriter;
  readonly literal: LiteralBytes;

  constructor(out: SourceWriter) {
    this.writes = out.part();
    this.literal = new LiteralBytes(this.writes);
  }

  /** A block of the program: literals must not move across its borders. */
  block(head: string, inside: () => void): void {
    this.literal.flush();
    this.writes.line(`${head}{`);
    inside();
    this.literal.flush();
    this.writes.line('}');
  }

  /**
   * A JSON object. Members are separated by commas: before the first member that is always there, each one brings its
   * comma along behind; after it, each one brings it before.
   *
   * @param isSure whether a member is always there
   */
  object<F>(
    members: readonly F[],
    isSure: (member: F) => boolean,
    write: (member: F, before: string, after: string) => void,
  ): void {
    const firstSure = members.findIndex(isSure);
    this.literal.add('{');
    members.forEach((member, index) => {
      const before = firstSure !== -1 && index > firstSure ? ',' : '';
      const after = firstSure === -1 || index < firstSure ? ',' : '';
      write(member, before, after);
    });
    if (firstSure === -1 && members.length > 0) {
      this.literal.flush();
      this.writes.line('if(b[p-1]===44)p--;');
    }
    this.literal.add('}');
  }
}
