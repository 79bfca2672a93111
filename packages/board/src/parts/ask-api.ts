import type { BoardData } from '@gribo/cli';

/** A response as the board shows it. */
export interface ApiResponse {
  readonly status: number;
  readonly headers: readonly (readonly [string, string])[];
  readonly text: string;
  readonly bytes: number;
  readonly milliseconds: number;
  /** Where a picture that came can be shown from; null: none came. */
  readonly picture: string | null;
}

/** What is sent to the API that is served beside the board. */
export interface AskedApi {
  readonly method: string;
  /** The path with its query. */
  readonly path: string;
  readonly audience: string | null;
  /** The caller that it is sent as, by its name; null: whoever is of the audience. */
  readonly caller: string | null;
  readonly accept: string;
  /** Headers besides: facts about the caller, what is pretended. */
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: { readonly type: string; readonly text: string } | FormData;
}

/** The request in the edition that the board shows: as the API wants it named. */
export const inEdition = ({ edition }: Pick<BoardData, 'edition'>, asked: AskedApi): AskedApi => {
  if (edition === null) return asked;
  const { path, headers, parameter } = edition;
  const { body } = asked;
  const named = {
    path: path + asked.path,
    accept: asked.accept + parameter,
    headers: { ...headers, ...asked.headers },
  };
  if (body === undefined || body instanceof FormData) return { ...asked, ...named };
  return { ...asked, ...named, body: { ...body, type: body.type + parameter } };
};

/** Whom a request names. */
const whomOf = ({ audience, caller }: AskedApi): Readonly<Record<string, string>> => {
  if (caller !== null) return { 'x-caller': caller };
  return audience === null ? {} : { 'x-audience': audience };
};

/** The headers that a request is sent with. */
export const headersOf = (asked: AskedApi): Readonly<Record<string, string>> => ({
  accept: asked.accept,
  ...whomOf(asked),
  ...asked.headers,
  // A form says its own type.
  ...(asked.body === undefined || asked.body instanceof FormData ? {} : { 'content-type': asked.body.type }),
});

/** Sends a request to the API. */
export const askApi = async (asked: AskedApi): Promise<ApiResponse> => {
  const { method, path, body } = asked;
  const start = performance.now();
  const response = await fetch(path, {
    method,
    headers: headersOf(asked),
    ...(body === undefined ? {} : { body: body instanceof FormData ? body : body.text }),
    cache: 'no-store',
  });
  const bytes = new Uint8Array(await response.arrayBuffer());
  const type = response.headers.get('content-type') ?? '';
  const isPicture = response.ok && type.startsWith('image/');
  const isBinary = isPicture || /cbor|octet-stream|^(?:audio|video)\//.test(type);
  return {
    status: response.status,
    headers: [...response.headers],
    text: isBinary ? hexOf(bytes) : new TextDecoder().decode(bytes),
    bytes: bytes.length,
    milliseconds: performance.now() - start,
    picture: isPicture ? `data:${type};base64,${base64Of(bytes)}` : null,
  };
};

/** The page's own rules let it show what is in its address, and nothing from elsewhere. */
const base64Of = (bytes: Uint8Array): string =>
  btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));

const hexOf = (bytes: Uint8Array): string =>
  Array.from(bytes.subarray(0, 2048), (byte) => byte.toString(16).padStart(2, '0'))
    .join(' ')
    .replaceAll(/((?:.. ){16})/g, '$1\n');

/** JSON on several lines; any other text as it is. */
export const laidOut = (text: string): string => {
  try {
    return JSON.stringify(JSON.parse(text), null, 2);
  } catch {
    return text;
  }
};

/** How a text of a media type is painted. */
export const languageOf = (type: string): 'json' | 'xml' | 'text' => {
  if (/[/+]json/.test(type)) return 'json';
  return /[/+]xml/.test(type) ? 'xml' : 'text';
};
