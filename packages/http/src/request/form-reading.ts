import { Readable } from 'node:stream';
import { Busboy, type BusboyInstance } from '@fastify/busboy';
import { parse } from 'content-type';
import { pointerPart } from 'gribo';
import { bareIssue, type FilePlan, spoken } from 'gribo/kit';
import type { Asked } from '../message/asked.js';
import { Problem } from '../problems/problem.js';
import type { Settings } from '../settings/settings.js';
import { chunksOf } from './chunks-of.js';
import { PartHeaders } from './part-headers.js';
import { refused } from './read-body.js';
import { tooLarge } from './too-large.js';

/** A file among the parts of a form. */
export interface FormPart {
  readonly name: string;
  readonly filename: string | null;
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** The parts of a form, as they came. */
export interface Form {
  readonly fields: Map<string, string>;
  readonly files: readonly FormPart[];
}

/** Room for the lines around parts, and the most bytes of the headers of one. */
const AROUND = 16_384;

/** How a part may be written down (RFC 7578, section 4.7): as its bytes are. */
const AS_IT_IS = ['7bit', '8bit', 'binary'];

/** The chunks of a form, as long as no part has too many headers. */
async function* bounded(chunks: AsyncIterable<Uint8Array>, boundary: string): AsyncGenerator<Uint8Array> {
  const headers = new PartHeaders(boundary, AROUND);
  for await (const chunk of chunks) {
    if (headers.add(chunk)) throw tooLarge(`The headers of a part may have at most ${AROUND} bytes.`);
    yield chunk;
  }
}

const boundaryOf = (contentType: string): string => {
  try {
    return parse(contentType).parameters['boundary'] ?? '';
  } catch {
    return '';
  }
};

/** Reads a form: nothing of it is larger than what was declared. */
export class FormReading {
  readonly #files: readonly FilePlan[];
  readonly #settings: Settings;
  readonly #parts: FormPart[] = [];
  readonly #fields = new Map<string, string>();

  constructor(files: readonly FilePlan[], settings: Settings) {
    this.#files = files;
    this.#settings = settings;
  }

  /** @throws {Problem} 400, 408, 413 */
  async read(asked: Asked): Promise<Form> {
    const { body, receiving } = this.#settings.limits;
    const most = this.#files.reduce((sum, { max }) => sum + max, body + AROUND);
    const contentType = asked.header('content-type') ?? '';
    const chunks = bounded(chunksOf(asked, { most, receiving, each: body }), boundaryOf(contentType));
    const source = Readable.from(chunks, { objectMode: false });
    await new Promise<void>((resolve, reject) => {
      const fail = (error: unknown): void => {
        source.destroy();
        reject(unreadable(error));
      };
      // One without its boundary is told at once.
      const parser = this.#parser(contentType, fail);
      parser.on('finish', resolve);
      parser.on('error', fail);
      source.on('error', fail);
      source.pipe(parser);
    }).catch((error: unknown) => {
      throw unreadable(error);
    });
    return { fields: this.#fields, files: this.#parts };
  }

  #parser(contentType: string, fail: (error: unknown) => void): BusboyInstance {
    const { body } = this.#settings.limits;
    const largest = Math.max(...this.#files.map(({ max }) => max));
    const limits = {
      fieldNameSize: 200,
      fieldSize: body,
      fields: 1000,
      // One more than there may be is enough to know that there are too many.
      files: this.#files.length + 1,
      fileSize: largest + 1,
      headerPairs: 20,
      headerSize: AROUND,
    };
    const parser = new Busboy({
      headers: { 'content-type': contentType },
      limits,
      isPartAFile: (name, _type, filename) =>
        filename !== undefined || this.#files.some((file) => file.name === name),
    });
    parser.on('field', (name, value, isNameCut, isCut, encoding) => {
      if (!AS_IT_IS.includes(encoding.toLowerCase())) return fail(coded(encoding));
      if (isNameCut || isCut) return fail(tooLarge(`A field may have at most ${body} bytes.`));
      if (this.#fields.has(name)) return fail(malformed(pointerPart(name), this.#settings));
      this.#fields.set(name, value);
    });
    parser.on('fieldsLimit', () => fail(tooLarge('A form has at most 1000 fields.')));
    parser.on('filesLimit', () => fail(tooLarge(`A form has at most ${this.#files.length} files here.`)));
    parser.on('file', (name, stream, filename, encoding, type) => {
      if (!AS_IT_IS.includes(encoding.toLowerCase())) return fail(coded(encoding));
      const chunks: Buffer[] = [];
      const most = this.#files.find((file) => file.name === name)?.max ?? 0;
      let size = 0;
      stream.on('data', (chunk: Buffer) => {
        size += chunk.length;
        // What nobody declared is told below, and not kept.
        if (most > 0 && size > most) return fail(this.#largeFile(name, most));
        if (most > 0) chunks.push(chunk);
      });
      stream.on('error', fail);
      stream.on('end', () => {
        this.#parts.push({
          name,
          filename: filename ?? null,
          type: type.toLowerCase(),
          bytes: Buffer.concat(chunks),
        });
      });
    });
    return parser;
  }

  #largeFile(name: string, most: number): Problem {
    const issue = spoken(
      bareIssue(pointerPart(name), 'limit', { limits: { bytes: most } }),
      this.#settings.say,
    );
    return tooLarge(issue.message, [issue]);
  }
}

const coded = (encoding: string): Problem =>
  new Problem(415, {
    detail: `A part must be sent as it is: without Content-Transfer-Encoding ${encoding.slice(0, 40)}.`,
  });

const unreadable = (cause: unknown): unknown =>
  cause instanceof Problem ? cause : new Problem(400, { detail: 'The form cannot be read.', cause });

const malformed = (pointer: string, { say }: Settings): Problem =>
  refused([spoken(bareIssue(pointer, 'syntax', { reason: { name: 'twice' } }), say)]);
