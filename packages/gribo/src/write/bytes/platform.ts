/** The fast ways of writing text that Node's buffers have, where there are any. */
interface TextBuffer extends Uint8Array {
  latin1Write(text: string, position: number, length: number): number;
  /** The length is Node's own default, but some platforms with buffers like Node's insist on it. */
  utf8Write(text: string, position: number, length: number): number;
  utf8Slice(from: number, to: number): string;
}

interface BufferMaker {
  allocUnsafeSlow(size: number): Uint8Array;
}

const maker = (globalThis as { Buffer?: Partial<BufferMaker> }).Buffer;

const isTextBuffer = (bytes: Uint8Array): bytes is TextBuffer =>
  'latin1Write' in bytes && 'utf8Write' in bytes && 'utf8Slice' in bytes;

/** Memory to write into; what is in it before is anything. */
export const allocate = (size: number): Uint8Array => maker?.allocUnsafeSlow?.(size) ?? new Uint8Array(size);

/** Writing and reading text: Node's own way where it is there, the web's everywhere else. */
export interface TextCodec {
  /** Writes text of ASCII characters only. */
  ascii(target: Uint8Array, text: string, position: number): void;
  /** Writes any text as UTF-8 and returns how many bytes that were. */
  utf8(target: Uint8Array, text: string, position: number): number;
  /** Reads UTF-8 text up to a position, from the start or another one. */
  read(source: Uint8Array, to: number, from?: number): string;
}

const encoder = new TextEncoder();
// A sign of the order of bytes is a character like others.
const decoder = new TextDecoder('utf-8', { ignoreBOM: true });

const nodeCodec: TextCodec = {
  ascii: (target, text, position) => {
    (target as TextBuffer).latin1Write(text, position, text.length);
  },
  utf8: (target, text, position) =>
    (target as TextBuffer).utf8Write(text, position, target.length - position),
  read: (source, to, from = 0) => (source as TextBuffer).utf8Slice(from, to),
};

const webCodec: TextCodec = {
  ascii: (target, text, position) => {
    encoder.encodeInto(text, target.subarray(position));
  },
  utf8: (target, text, position) => encoder.encodeInto(text, target.subarray(position)).written,
  read: (source, to, from = 0) => decoder.decode(source.subarray(from, to)),
};

export const codec: TextCodec = isTextBuffer(allocate(1)) ? nodeCodec : webCodec;

/** Bytes of the caller's own: nothing else is in their memory. */
export const ownBytes = (source: Uint8Array, to: number): Uint8Array => {
  const own = allocate(to);
  own.set(source.subarray(0, to));
  return own;
};
