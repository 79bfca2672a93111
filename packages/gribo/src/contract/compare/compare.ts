import { freeze } from '../../util/freeze.js';
import type { Contract, ContractEndpoint, ContractRows } from '../contract.js';
import { BodyComparing, inside } from './body-changes.js';
import type { ContractChange, Side } from './contract-change.js';
import { endpointChanges, problemChanges, rowChanges, whomChanges } from './endpoint-changes.js';
import { isAtLeast, stepFor, steppedVersion, type VersionStep } from './version-step.js';

/** The endpoints and audiences that a difference reaches. */
export interface Reach {
  readonly endpoint: string;
  /** Null among them: callers of no audience. */
  readonly audiences: readonly (string | null)[];
}

/** One difference between two contracts, from the side of clients. */
export interface Difference extends ContractChange {
  /** Where it is: in what is sent, in what is taken, or around them. */
  readonly side: Side | 'endpoint';
  readonly reach: readonly Reach[];
}

export interface Comparison {
  /** Breaking ones first, then risky, then safe. */
  readonly differences: readonly Difference[];
  /** The step of the version that they ask for; null where nothing differs. */
  readonly step: VersionStep | null;
  /** The version after that step; null where the versions are no semantic versions. */
  readonly suggested: string | null;
  /** Whether the later contract's version says as much. */
  readonly announced: boolean;
}

type Pair = readonly [ContractEndpoint | null, ContractEndpoint | null];

const routeOf = ({ method, path }: ContractEndpoint): string => `${method} ${path}`;

/** Endpoints of the same name; where the name is gone, of the same route. */
const pairs = (before: Contract, after: Contract): readonly Pair[] => {
  const byName = new Map(after.endpoints.map((endpoint) => [endpoint.name, endpoint]));
  const known = new Set(before.endpoints.map(({ name }) => name));
  const fresh = after.endpoints.filter(({ name }) => !known.has(name));
  const byRoute = new Map(fresh.map((endpoint) => [routeOf(endpoint), endpoint]));
  const found = before.endpoints.map((endpoint): Pair => {
    const now = byName.get(endpoint.name) ?? byRoute.get(routeOf(endpoint)) ?? null;
    return [endpoint, now];
  });
  const paired = new Set(found.map(([, now]) => now));
  return [...found, ...fresh.filter((endpoint) => !paired.has(endpoint)).map((now): Pair => [null, now])];
};

const audiencesOf = ({ audiences: answered, returns }: ContractEndpoint): readonly (string | null)[] =>
  answered ?? returns?.variants.flatMap(({ audiences }) => audiences) ?? [null];

/** What a row rule leaves to an audience: nothing is said where that is all. */
const rowsOf = ({ rows = [] }: ContractEndpoint, audience: string | null): Omit<ContractRows, 'audiences'> =>
  rows.find(({ audiences }) => audiences.includes(audience)) ?? {};

/** What an endpoint has for some audiences. */
interface ForSome {
  readonly audiences: readonly (string | null)[];
}

/** What each audience has now, with what it had before: one that is new had what callers of none did. */
const byAudience = <V extends ForSome>(
  before: readonly V[] = [],
  after: readonly V[] = [],
): readonly (readonly [audience: string | null, before: V, after: V])[] =>
  after.flatMap((is) =>
    is.audiences.flatMap((audience): (readonly [string | null, V, V])[] => {
      const was =
        before.find(({ audiences }) => audiences.includes(audience)) ??
        before.find(({ audiences }) => audiences.includes(null));
      return was === undefined ? [] : [[audience, was, is]];
    }),
  );

/** The shape of the rows of a body, and where they are in it: a list itself, or the one list of what is around it. */
const listIn = (contract: Contract, name: string): { readonly shape: string; readonly path: string } => {
  const lists = (contract.shapes[name]?.members ?? []).flatMap(({ name: member, type }) =>
    type.kind === 'list' ? [{ shape: type.of, path: `${member}[].` }] : [],
  );
  const isAround = contract.shapes[name]?.entity === null;
  return (isAround ? lists[0] : undefined) ?? { shape: name, path: '' };
};

/** Compares two contracts and joins what is alike at several endpoints. */
class Comparing {
  readonly #responses: BodyComparing;
  readonly #requests: BodyComparing;
  readonly #before: Contract;
  readonly #after: Contract;
  readonly #found = new Map<string, { change: ContractChange; side: Difference['side']; reach: Reach[] }>();

  constructor(before: Contract, after: Contract) {
    this.#before = before;
    this.#after = after;
    this.#responses = new BodyComparing(before, after, 'response');
    this.#requests = new BodyComparing(before, after, 'request');
    for (const [was, is] of pairs(before, after)) this.#pair(was, is);
    for (const name of before.audiences) if (!after.audiences.includes(name)) this.#audience(name, before);
  }

  /** An audience that the whole API does not know any more. */
  #audience(name: string, before: Contract): void {
    const message = `There is no audience ${name} any more.`;
    const gone: ContractChange = { code: 'audience-removed', effect: 'breaking', path: '', message };
    for (const endpoint of before.endpoints) {
      const isFor = endpoint.audiences === undefined && endpoint.returns !== undefined;
      if (isFor) this.#add(gone, 'endpoint', endpoint.name, [name]);
    }
  }

  get differences(): readonly Difference[] {
    const all = [...this.#found.values()].map(({ change, side, reach }) =>
      freeze({ ...change, side, reach }),
    );
    const rank = { breaking: 0, risky: 1, safe: 2 };
    return all.sort((a, b) => rank[a.effect] - rank[b.effect]);
  }

  #add(
    change: ContractChange,
    side: Difference['side'],
    endpoint: string,
    audiences: Reach['audiences'],
  ): void {
    const key = JSON.stringify([side, change]);
    const known = this.#found.get(key) ?? { change, side, reach: [] };
    this.#found.set(key, known);
    const at = known.reach.findIndex((reach) => reach.endpoint === endpoint);
    const joined = new Set([...(known.reach[at]?.audiences ?? []), ...audiences]);
    known.reach[at === -1 ? known.reach.length : at] = { endpoint, audiences: [...joined] };
  }

  #pair(was: ContractEndpoint | null, is: ContractEndpoint | null): void {
    if (is === null) {
      if (was === null) return;
      const message = `There is no ${routeOf(was)} any more.`;
      const gone: ContractChange = { code: 'endpoint-removed', effect: 'breaking', path: '', message };
      return this.#add(gone, 'endpoint', was.name, audiencesOf(was));
    }
    if (was === null) {
      const added: ContractChange = {
        code: 'endpoint-added',
        effect: 'safe',
        path: '',
        message: `${routeOf(is)} is new.`,
      };
      return this.#add(added, 'endpoint', is.name, audiencesOf(is));
    }
    const around = [...endpointChanges(was, is), ...this.#told(was, is), ...this.#problems(was, is)];
    for (const change of around) this.#add(change, 'endpoint', is.name, audiencesOf(is));
    this.#bodies(was, is);
  }

  /** What the query is told: as members of a body are, under their own names. */
  #told(
    { query: before = [] }: ContractEndpoint,
    { query: after = [] }: ContractEndpoint,
  ): readonly ContractChange[] {
    const whom = after.flatMap((one) => {
      const was = before.find(({ name }) => name === one.name);
      return was === undefined ? [] : whomChanges(one.name, 'The parameter', was, one);
    });
    const told = this.#requests.members(before, after).map((change): ContractChange => {
      if (change.code === 'member-added') return { ...change, code: 'parameter-added' };
      return change.code === 'member-removed' ? { ...change, code: 'parameter-removed' } : change;
    });
    return [...told, ...whom];
  }

  #problems(was: ContractEndpoint, is: ContractEndpoint): readonly ContractChange[] {
    const [before, after] = [was.problems ?? [], is.problems ?? []];
    const details = after.flatMap((one) => {
      const known = before.find(({ code }) => code === one.code);
      if (known === undefined) return [];
      return inside(`${one.code}.`, this.#responses.members(known.members ?? [], one.members ?? []));
    });
    return [...problemChanges(before, after), ...details];
  }

  /** Rules are compared for everybody whom the endpoint answers: it may send nothing to any of them. */
  #rows(was: ContractEndpoint, is: ContractEndpoint): void {
    for (const audience of is.audiences ?? [null, ...this.#after.audiences]) {
      // One that is new had what callers of none did.
      const known = audience === null || this.#before.audiences.includes(audience) ? audience : null;
      const [before, after] = [rowsOf(was, known), rowsOf(is, audience)];
      for (const change of rowChanges(before, after)) this.#add(change, 'endpoint', is.name, [audience]);
    }
  }

  #bodies(was: ContractEndpoint, is: ContractEndpoint): void {
    this.#rows(was, is);
    for (const [audience, before, after] of byAudience(was.takes, is.takes)) {
      for (const change of this.#requests.named(before.input, after.input)) {
        this.#add(change, 'request', is.name, [audience]);
      }
    }
    const isOther = was.returns?.many !== is.returns?.many;
    for (const [audience, before, after] of byAudience(was.returns?.variants, is.returns?.variants)) {
      const changes = isOther
        ? this.#rowsOfOther(before.shape, after.shape)
        : this.#responses.named(before.shape, after.shape);
      for (const change of changes) this.#add(change, 'response', is.name, [audience]);
    }
  }

  /** Where a list became a page, or a page a list, its rows are still rows: they are compared, under where they are now. */
  #rowsOfOther(before: string, after: string): readonly ContractChange[] {
    const [from, to] = [listIn(this.#before, before), listIn(this.#after, after)];
    return inside(to.path, this.#responses.named(from.shape, to.shape));
  }
}

/**
 * Every difference between two contracts, from the side of clients: what breaks them, what may, and
 * what does not; for whom, and what it asks of the version. Shapes are compared by their members: their
 * names do not matter.
 *
 * @param before the contract that clients know
 * @param after the contract that is to be
 * @returns differences, the step of the version that they ask for, and whether the version says so
 * @example
 * compare(contractOf(harbour), contractOf(harbour)).differences // => []
 */
export const compare = (before: Contract, after: Contract): Comparison => {
  const { differences } = new Comparing(before, after);
  const step = stepFor(differences.map(({ effect }) => effect));
  const suggested = steppedVersion(before.version, step);
  const announced =
    suggested === null ? before.version !== after.version : isAtLeast(after.version, suggested);
  return freeze({ differences, step, suggested, announced: step === null || announced });
};
