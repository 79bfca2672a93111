import { loadPlan, type Situation, type Store, writer } from 'gribo';
import { harbour } from '../api.js';

type AnyBody = Parameters<typeof writer>[0];

/** The situation that a serializer is for, by its file's name: endpoint, audience, names asked. */
const situationOf = (file: string): Situation => {
  const [name = '', asked] = file.split('.with-');
  const parts = name.split('.');
  const endpoint =
    harbour.plan.endpoints.map((one) => one.name).find((one) => one === parts.slice(0, 2).join('.')) ?? '';
  const [first = ''] = (parts[2] ?? '').split('-');
  const only = harbour.plan.endpoints.find((one) => one.name === endpoint)?.audiences?.[0];
  const audience = first === '' ? only : first;
  return {
    endpoint,
    ...(audience === undefined ? {} : { audience }),
    asked: asked === undefined ? [] : asked.split('-'),
  };
};

/** What a serializer is given, and what the library writes from it. */
export interface SerializerCase {
  readonly data: unknown;
  readonly json: string;
}

/**
 * What a stand-alone serializer of the harbour has to write.
 *
 * @param name its file's name, without its ending
 * @param store where the rows are
 */
export const serializerCase = async (name: string, store: Store): Promise<SerializerCase> => {
  const situation = situationOf(name);
  const endpoint = harbour.plan.endpoints.find((one) => one.name === situation.endpoint);
  const body = { plan: endpoint?.returns } as AnyBody;
  const items = await store.list(loadPlan(body, situation), { limit: 25 });
  const kind = endpoint?.returns?.kind;
  const envelope = { items, number: 1, size: 25, total: 25, pages: 1, next: null, previous: null };
  const data = kind === 'list' ? items : kind === 'shape' ? items[0] : envelope;
  return { data, json: writer(body, situation).json(data as never) };
};
