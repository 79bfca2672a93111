import { memoryStore, type Store } from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { type ServeOptions, serve } from '../index.js';
import { office } from './office.js';

/** A response, read whole. */
export interface Answered {
  readonly status: number;
  readonly headers: Headers;
  readonly text: string;
  /** The text, parsed. */
  json(): unknown;
}

export type Ask = (
  method: string,
  path: string,
  headers?: Record<string, string>,
  body?: string | Uint8Array,
) => Promise<Answered>;

export type OfficeOptions = Partial<ServeOptions<typeof office>>;

/** Whom a test's request is from: it says so itself. */
export const saidCaller = (request: Request): { readonly audience: 'agent' | 'office' | null } => {
  const said = request.headers.get('x-audience');
  return { audience: said === 'agent' || said === 'office' ? said : null };
};

export const openStore = (): Store => memoryStore(stock, stockRows);

/** Asks the office, as a client would. */
export const askOffice = (options: OfficeOptions = {}): Ask => {
  const handle = serve(office, { store: openStore(), caller: saidCaller, ...options });
  return async (method, path, headers = {}, body) => {
    const request = new Request(`http://office.test${path}`, {
      method,
      headers,
      ...(body === undefined ? {} : { body: body as BodyInit }),
    });
    const response = await handle(request);
    const text = await response.text();
    return {
      status: response.status,
      headers: response.headers,
      text,
      json: () => JSON.parse(text) as unknown,
    };
  };
};

/** JSON sent as JSON. */
export const JSON_BODY = { 'content-type': 'application/json' };

/** A log that keeps what it is told. */
export const keepingLog = () => {
  const told: { readonly about: object; readonly message: string }[] = [];
  return { told, log: { error: (about: object, message: string) => void told.push({ about, message }) } };
};

/** What a problem says was wrong, in a line each. */
export const errorsOf = (answered: { json(): unknown }): string[] => {
  const { errors = [] } = answered.json() as {
    errors?: { pointer?: string; parameter?: string; code: string; message: string }[];
  };
  return errors.map(({ pointer, parameter, code, message }) => `${pointer ?? parameter} ${code}: ${message}`);
};

/** A store that has no more than the methods of one: spread, and some of them replaced. */
export const openMethods = () => {
  const store = openStore();
  return {
    list: store.list.bind(store),
    stream: store.stream.bind(store),
    count: store.count.bind(store),
    read: store.read.bind(store),
    create: store.create.bind(store),
    createAll: store.createAll.bind(store),
    amend: store.amend.bind(store),
    remove: store.remove.bind(store),
  };
};
