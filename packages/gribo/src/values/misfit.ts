import { RowError, type RowErrorCode } from '../errors/row-error.js';
import { describeValue, kindOfValue } from '../util/describe-value.js';

/** A value that does not fit, on its way up: each level adds its part of the path. */
export class Misfit extends Error {
  readonly code: RowErrorCode;
  readonly expected: string;
  #came: string;
  readonly #kind: string;
  #path = '';

  /**
   * @param expected what was expected, as the message says it
   * @param value what came; its content is shown unless the member is sealed
   * @param hint what to do about it, after what came
   */
  constructor(code: RowErrorCode, expected: string, value: unknown, hint = '', options?: ErrorOptions) {
    super(expected, options);
    this.code = code;
    this.expected = expected;
    this.#came = `, got ${describeValue(value)}${hint}`;
    this.#kind = `, got ${kindOfValue(value)}${hint}`;
  }

  /** Hides what came: for members over sealed columns. */
  conceal(): this {
    this.#came = this.#kind;
    return this;
  }

  inside(segment: string): this {
    this.#path = segment + this.#path;
    return this;
  }

  toRowError(root: string): RowError {
    const options = this.cause === undefined ? undefined : { cause: this.cause };
    return new RowError(this.code, root + this.#path, `expected ${this.expected}`, this.#came, options);
  }
}
