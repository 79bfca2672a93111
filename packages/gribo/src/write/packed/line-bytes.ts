import { allocate, codec } from '../bytes/platform.js';

const TAB = 9;
const NEWLINE = 10;
const FIRST_SIZE = 1 << 17;

/** Lines of fields as bytes: what has come and is not used yet. */
export class LineBytes {
  bytes: Uint8Array = allocate(FIRST_SIZE);
  /** Where the fields of the line that was found start, and behind them where the next line does. */
  readonly starts: Int32Array;
  /** What is not used yet: from here to there. */
  #from = 0;
  #to = 0;

  /** @param width how many fields a line has */
  constructor(width: number) {
    this.starts = new Int32Array(width + 1);
  }

  /** How many bytes are left. */
  get left(): number {
    return this.#to - this.#from;
  }

  /** Finds the fields of the next line. @returns how many; 0 where its end is not there yet */
  next(): number {
    const { bytes, starts } = this;
    const to = this.#to;
    let fields = 0;
    starts[0] = this.#from;
    for (let i = this.#from; i < to; i++) {
      const code = bytes[i] ?? 0;
      if (code > NEWLINE || code < TAB) continue;
      fields++;
      // One more than there should be is counted, and has no place.
      starts[fields] = i + 1;
      if (code === TAB) continue;
      this.#from = i + 1;
      return fields;
    }
    return 0;
  }

  /** The text of the line that was found. */
  text(): string {
    return codec.read(this.bytes, this.#from - 1, this.starts[0]);
  }

  /** Takes a chunk behind what is left. */
  take(chunk: Uint8Array | string): void {
    const { left } = this;
    // A character of a text takes three bytes at most.
    const needed = left + (typeof chunk === 'string' ? chunk.length * 3 : chunk.length);
    if (needed > this.bytes.length) {
      const larger = allocate(Math.max(needed, this.bytes.length * 2));
      larger.set(this.bytes.subarray(this.#from, this.#to));
      this.bytes = larger;
    } else this.bytes.copyWithin(0, this.#from, this.#to);
    this.#from = 0;
    if (typeof chunk === 'string') this.#to = left + codec.utf8(this.bytes, chunk, left);
    else {
      this.bytes.set(chunk, left);
      this.#to = needed;
    }
  }
}
