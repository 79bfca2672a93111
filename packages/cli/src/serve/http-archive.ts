export interface Named {
  readonly name: string;
  readonly value: string;
}

/** What was sent. The format has text only: as it asks of what is added to it, the name for how that stands for bytes begins with `_`. */
export interface Posted {
  readonly mimeType: string;
  readonly text: string;
  readonly _encoding?: 'base64';
}

/** One exchange of an HTTP Archive (HAR 1.2), which browsers write and open: so far as it is written and read here. */
export interface Entry {
  readonly startedDateTime: string;
  readonly time: number;
  readonly request: {
    readonly method: string;
    readonly url: string;
    readonly httpVersion: string;
    readonly headers: readonly Named[];
    readonly queryString: readonly Named[];
    readonly cookies: readonly Named[];
    readonly headersSize: number;
    readonly bodySize: number;
    readonly postData?: Posted;
  };
  readonly response: {
    readonly status: number;
    readonly statusText: string;
    readonly httpVersion: string;
    readonly headers: readonly Named[];
    readonly cookies: readonly Named[];
    readonly content: {
      readonly size: number;
      readonly mimeType: string;
      readonly text?: string;
      readonly encoding?: 'base64';
    };
    readonly redirectURL: string;
    readonly headersSize: number;
    readonly bodySize: number;
  };
  readonly cache: object;
  readonly timings: { readonly send: number; readonly wait: number; readonly receive: number };
}

/** The bytes that a text of the file stands for. */
export const bytesOf = (text = '', encoding: 'base64' | 'utf8' = 'utf8'): Buffer<ArrayBuffer> =>
  Buffer.from(text, encoding);
