// Compiles, or fails the check: what is sent and taken in each edition.
import {
  api,
  apiNames,
  collection,
  constant,
  endpoint,
  given,
  input,
  list,
  page,
  preset,
  type RequestOf,
  type ResponseOf,
  shape,
  text,
  values,
} from '../index.js';
import { fleet } from '../testing/fleet.js';

type Same<A, B> = (<T>() => T extends A ? 1 : 2) extends <T>() => T extends B ? 1 : 2 ? true : false;
const same = <_T extends true>(): void => {};

const { editionFrom, editionBefore, unseal, audience } = apiNames({
  audiences: ['agent', 'office'],
  editions: ['2025-11', '2026-05', '2026-11'],
});

// @ts-expect-error there is no such edition
editionFrom('2026-06');

const Vessel = shape(fleet.vessel, (v) => ({
  id: v.id,
  name: given(editionBefore('2026-05'), v.name),
  title: given(editionFrom('2026-05'), v.name),
  built: given(editionFrom('2026-11'), { value: v.builtYear, unit: constant('year') }, v.builtYear),
  phone: given(editionFrom('2026-05'), unseal('office', v.masterPhone)),
  kind: given(audience('agent'), v.kind),
}));

const NewVessel = input(fleet.vessel, (v) => ({
  name: given(editionBefore('2026-05'), v.name),
  title: given(editionFrom('2026-05'), v.name),
  callSign: given(editionFrom('2026-05'), v.callSign),
  kind: given(editionFrom('2026-11'), v.kind, preset(v.kind, 'tug')),
}));

const fleetApi = api({
  title: 'Fleet',
  version: '1.0.0',
  editions: [{ name: '2025-11', deprecated: { sunset: '2027-01-01' } }, '2026-05', '2026-11'],
  audiences: ['agent', 'office'],
  endpoints: {
    vessels: collection('/vessels', fleet.vessel, {
      list: given(editionFrom('2026-11'), page(Vessel, { by: 'cursor' }), list(Vessel)),
      read: Vessel,
      create: { takes: NewVessel, returns: Vessel },
    }),
    inspect: given(
      editionFrom('2026-05'),
      endpoint('POST /vessels/{id}/inspections', { from: fleet.vessel, takes: values({ reason: text() }) }),
      endpoint('POST /inspections/{vessel}', { takes: values({ why: text() }) }),
    ),
  },
});

type Api = typeof fleetApi;
interface Old {
  id: number;
  name: string;
  built: number;
  kind: 'bulk' | 'tanker' | 'tug';
}
interface New {
  id: number;
  title: string;
  built: { value: number; unit: 'year' };
  kind: 'bulk' | 'tanker' | 'tug';
}

same<Same<ResponseOf<Api, 'vessels.read', 'agent', '2025-11'>, { [K in keyof Old]: Old[K] }>>();
same<Same<ResponseOf<Api, 'vessels.read', 'agent', '2026-11'>, { [K in keyof New]: New[K] }>>();
// Where none is named, it is the newest.
same<Same<ResponseOf<Api, 'vessels.read', 'agent'>, ResponseOf<Api, 'vessels.read', 'agent', '2026-11'>>>();
same<Same<ResponseOf<Api, 'vessels.list', 'agent', '2025-11'>, { [K in keyof Old]: Old[K] }[]>>();
same<
  Same<
    ResponseOf<Api, 'vessels.list', 'agent'>['page'],
    { size: number; next: string | null; previous: string | null }
  >
>();
same<Same<ResponseOf<Api, 'vessels.read', 'office', '2026-05'>['phone'], string>>();
same<Same<RequestOf<Api, 'inspect', '2025-11'>, { why: string }>>();
same<Same<RequestOf<Api, 'inspect', '2026-11'>, { reason: string }>>();
same<Same<RequestOf<Api, 'inspect'>, { reason: string } | { why: string }>>();
same<Same<RequestOf<Api, 'vessels.create', '2025-11'>, { name: string; kind: 'bulk' | 'tanker' | 'tug' }>>();
same<
  Same<
    RequestOf<Api, 'vessels.create', '2026-11'>,
    { name: string; callSign: string | null; kind: 'bulk' | 'tanker' | 'tug' }
  >
>();

// @ts-expect-error there is no such edition
type _None = ResponseOf<Api, 'vessels.read', 'agent', '2026-06'>;
