import { headersOf } from './raw-headers.js';

/**
 * A request of the Fetch standard of which little is made as long as only its method, URL and headers are looked at. For
 * everything else the whole is made.
 */
class LazyRequest {
  readonly method: string;
  readonly url: string;
  readonly #raw: readonly string[];
  readonly #make: () => Request;
  #headers: Headers | null = null;

  constructor(method: string, url: string, raw: readonly string[], make: () => Request) {
    this.method = method;
    this.url = url;
    this.#raw = raw;
    this.#make = make;
  }

  get headers(): Headers {
    this.#headers ??= headersOf(this.#raw);
    return this.#headers;
  }

  static wholeOf(lazy: LazyRequest): Request {
    return lazy.#make();
  }
}

/** What a request has, and this class has not: got from the whole. */
const fromWhole = (name: string, { value }: PropertyDescriptor): PropertyDescriptor =>
  typeof value === 'function'
    ? {
        configurable: true,
        value(this: LazyRequest, ...given: unknown[]): unknown {
          return Reflect.apply(value, LazyRequest.wholeOf(this), given);
        },
      }
    : {
        configurable: true,
        get(this: LazyRequest): unknown {
          return Reflect.get(LazyRequest.wholeOf(this), name);
        },
      };

/** Gives the class what a request has. Node loads its requests when they are first named, so this waits for the first one. */
const complete = (): void => {
  if (LazyRequest.prototype instanceof Request) return;
  for (const [name, descriptor] of Object.entries(Object.getOwnPropertyDescriptors(Request.prototype))) {
    if (['constructor', 'method', 'url', 'headers'].includes(name)) continue;
    Object.defineProperty(LazyRequest.prototype, name, fromWhole(name, descriptor));
  }
  // Whoever asks whether it is a request is right to be told so.
  Object.setPrototypeOf(LazyRequest.prototype, Request.prototype);
};

/**
 * A request that is made when it is needed.
 *
 * @param raw its headers as they were sent, names and values in turns
 * @param make makes the whole of it; asked again, it gives the same
 */
export const lazyRequest = (
  method: string,
  url: string,
  raw: readonly string[],
  make: () => Request,
): Request => {
  complete();
  // It has all that a request has, as its prototype says.
  return new LazyRequest(method, url, raw, make) as unknown as Request;
};
