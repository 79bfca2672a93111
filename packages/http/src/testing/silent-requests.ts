import type { Choose } from './random-office.js';

const pick = <T>(choose: Choose, from: readonly T[]): T => from[choose(from.length)] as T;

/** Every parameter of the lists of a random office, with values that some rows have. */
const PARAMETERS: Readonly<Record<string, readonly string[]>> = {
  vessels: [
    'name=An',
    'sign=true',
    'sign=false',
    'kind=tug',
    'kind=bulk',
    'from=1981',
    'from=1982',
    'operator=Ostwick',
    'owner=1',
    'owner=2',
    'group=Ostwick',
    'alone=true',
    'alone=false',
    'sort=name',
    'sort=callSign desc',
    'sort=builtYear',
    'sort=builtYear desc,name',
    'sort=operator.name',
    'sort=operator.name desc',
    'size=1',
    'size=4',
    'page=2',
    'with=more',
    'fields=id,calls',
    'format=csv',
  ],
  calls: [
    'from=2026-04-01T00:00:00Z',
    'to=2026-05-01T00:00:00Z',
    'status=berthed',
    'status=announced',
    'remarks=true',
    'remarks=false',
    'vessel=tern',
    'sort=eta',
    'sort=eta desc',
    'sort=status',
    'size=1',
    'page=2',
    'with=more',
  ],
};

const listOf = (choose: Choose, name: 'vessels' | 'calls'): string => {
  const known = PARAMETERS[name] ?? [];
  const parts = Array.from({ length: choose(4) }, () => pick(choose, known));
  const named = new Map(parts.map((part) => [part.slice(0, part.indexOf('=')), part]));
  const query = [...named.values()].map((part) => part.replaceAll(' ', '+')).join('&');
  return `/${name}${query === '' ? '' : `?${query}`}`;
};

/** A request that reads, of any kind. */
export const silentRequest = (choose: Choose, callId: (last: number) => string): string => {
  switch (choose(12)) {
    case 10:
      return '/seen';
    case 11:
      return `/vessels/${1 + choose(6)}/named`;
    case 0:
      return `/vessels/${1 + choose(6)}${choose(3) === 0 ? '?with=more' : ''}`;
    case 1:
      return `/calls/${callId(1 + choose(7))}`;
    case 2:
      return `/vessels/${1 + choose(6)}/calls`;
    case 3:
      return choose(2) === 0 ? '/operators' : `/operators/${1 + choose(4)}`;
    case 4:
      return choose(2) === 0 ? '/pilots' : `/pilots/${1 + choose(4)}`;
    case 5:
    case 6:
    case 7:
      return listOf(choose, 'vessels');
    default:
      return listOf(choose, 'calls');
  }
};
