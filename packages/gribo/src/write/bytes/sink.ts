import { allocate, codec, ownBytes } from './platform.js';

const FIRST_SIZE = 1 << 16;
const KEPT_SIZE = 1 << 22;

/** Room that stays free after each reservation, for the brackets and commas between values. */
export const SLACK = 16;

const viewOf = (bytes: Uint8Array): DataView =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** Where bytes are written: a buffer that grows, and how far it is filled. */
export class Sink {
  buffer: Uint8Array = allocate(FIRST_SIZE);
  /** The same memory, for writing several bytes at once. */
  view: DataView = viewOf(this.buffer);
  size: number = FIRST_SIZE;
  position = 0;

  /** Makes room for so many more bytes after a position that is still the writer's own. */
  reserve(position: number, more: number): void {
    const needed = position + more + SLACK;
    if (needed <= this.size) return;
    const size = Math.max(needed, this.size * 2);
    const larger = allocate(size);
    larger.set(this.buffer.subarray(0, position));
    this.buffer = larger;
    this.view = viewOf(larger);
    this.size = size;
  }

  byte(code: number): void {
    this.reserve(this.position, 1);
    this.buffer[this.position++] = code;
  }

  text(text: string): void {
    this.reserve(this.position, text.length * 3);
    this.position += codec.utf8(this.buffer, text, this.position);
  }

  bytes(): Uint8Array {
    return ownBytes(this.buffer, this.position);
  }

  string(): string {
    return codec.read(this.buffer, this.position);
  }
}

/** The sink that is free; a writer that is used inside another one's function finds none. */
let free: Sink | null = null;

/** Runs a function with a sink that nobody else uses meanwhile. */
export const withSink = <T>(use: (sink: Sink) => T): T => {
  const sink = free ?? new Sink();
  free = null;
  try {
    return use(sink);
  } finally {
    sink.position = 0;
    // One large response must not keep its memory for good.
    if (sink.size <= KEPT_SIZE) free = sink;
  }
};
