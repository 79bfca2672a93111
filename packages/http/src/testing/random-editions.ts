import {
  type AnyApi,
  all,
  any,
  api,
  asText,
  atLeast,
  audience,
  collection,
  constant,
  contains,
  count,
  editionBefore,
  editionFrom,
  endpoint,
  equals,
  given,
  input,
  integer,
  list,
  not,
  optional,
  page,
  preset,
  rowRule,
  shape,
  some,
  text,
  upper,
  values,
} from 'gribo';
import { stock } from '../../../gribo/src/testing/stock.js';
import { type Choose, choosing } from './random-office.js';

/*
 * Random APIs in three editions. The same choices declare one of two: the API with all of its editions, by conditions; or the API of
 * one edition alone, without a word of editions. What is left out there is not in its literals at all.
 */

// biome-ignore lint/suspicious/noExplicitAny: random declarations have no static type
type Any = any;

export const EDITIONS = ['2025-11', '2026-05', '2026-11'] as const;
export type Edition = (typeof EDITIONS)[number];

const ABSENT = Symbol('absent');

/** A condition on editions: as one that is declared, and where it holds. */
interface When {
  readonly condition: Any;
  readonly holds: (edition: Edition) => boolean;
}

const isFrom = (edition: Edition, from: Edition): boolean =>
  EDITIONS.indexOf(edition) >= EDITIONS.indexOf(from);

const randomWhen = (choose: Choose, depth = 0): When => {
  const named = EDITIONS[choose(3)] ?? '2026-05';
  switch (choose(depth > 1 ? 4 : 8)) {
    case 0:
    case 1:
    case 2:
      return { condition: editionFrom(named), holds: (edition) => isFrom(edition, named) };
    case 3:
      return { condition: editionBefore(named), holds: (edition) => !isFrom(edition, named) };
    case 4: {
      const inner = randomWhen(choose, depth + 1);
      return { condition: not(inner.condition), holds: (edition) => !inner.holds(edition) };
    }
    default: {
      const [one, other] = [randomWhen(choose, depth + 1), randomWhen(choose, depth + 1)];
      return choose(2) === 0
        ? { condition: all(one.condition, other.condition), holds: (e) => one.holds(e) && other.holds(e) }
        : { condition: any(one.condition, other.condition), holds: (e) => one.holds(e) || other.holds(e) };
    }
  }
};

/** Declares by choices: for all editions, or for one. */
class Declaring {
  readonly choose: Choose;
  readonly #alone: Edition | null;

  constructor(seed: number, alone: Edition | null) {
    this.choose = choosing(seed);
    this.#alone = alone;
  }

  /** Something in some editions only. */
  only(value: Any): Any {
    const { condition, holds } = randomWhen(this.choose);
    if (this.#alone === null) return given(condition, value);
    return holds(this.#alone) ? value : ABSENT;
  }

  /** One thing in some editions, and another in the others. */
  either(one: Any, other: Any): Any {
    const { condition, holds } = randomWhen(this.choose);
    if (this.#alone === null) return given(condition, one, other);
    return holds(this.#alone) ? one : other;
  }

  /** Something as it is, in some editions, or one of two. */
  maybe(one: Any, other: Any): Any {
    const how = this.choose(4);
    if (how === 0) return this.only(one);
    return how === 1 ? this.either(one, other) : one;
  }

  /** A condition that editions are a part of. */
  condition(rest: Any): Any {
    const { condition, holds } = randomWhen(this.choose);
    const isAll = this.choose(2) === 0;
    if (this.#alone === null) return isAll ? all(condition, rest) : any(condition, rest);
    const isHeld = holds(this.#alone);
    if (isAll) return isHeld ? rest : any();
    return isHeld ? all() : rest;
  }

  /** A sort in some editions. */
  sort(by: string): Any[] {
    const { condition, holds } = randomWhen(this.choose);
    if (this.choose(2) === 0) return [by];
    if (this.#alone === null) return [{ by, given: condition }];
    return holds(this.#alone) ? [by] : [];
  }

  /** A member under one name in some editions, and under another in the others; with others beside it. */
  renamed(one: Any, other: Any, rest: Any): Any {
    const { condition, holds } = randomWhen(this.choose);
    if (this.#alone !== null) return { ...(holds(this.#alone) ? one : other), ...rest };
    const under = (members: Any, when: Any): Any =>
      Object.fromEntries(Object.entries(members).map(([name, member]) => [name, given(when, member as Any)]));
    return { ...under(one, condition), ...under(other, not(condition)), ...rest };
  }

  /** A literal without what is not there. */
  literal(members: Readonly<Record<string, Any>>): Any {
    return Object.fromEntries(Object.entries(members).filter(([, member]) => member !== ABSENT));
  }
}

const shapesOf = (by: Declaring) => {
  const Operator = shape(
    stock.operator,
    (o: Any) =>
      by.literal({
        id: o.id,
        name: o.name,
        title: by.only(o.name),
        group: by.maybe(o.parentId, asText(o.id)),
      }),
    { name: 'Operator' },
  );
  const Call = shape(
    stock.portCall,
    (c: Any) =>
      by.literal({
        id: c.id,
        eta: c.eta,
        state: by.either(
          c.status,
          by.literal({ code: c.status, said: by.maybe(constant('as told'), constant(1)) }),
        ),
        remarks: given(by.condition(audience('agent')), c.remarks),
        note: given(by.condition(equals(c.status, 'berthed')), c.remarks),
      }),
    { name: 'Call' },
  );
  const Vessel = shape(
    stock.vessel,
    (v: Any) =>
      by.literal({
        id: v.id,
        name: v.name,
        label: by.maybe(upper(v.name), v.callSign),
        built: by.either(
          v.builtYear,
          by.literal({ value: v.builtYear, unit: by.maybe(constant('year'), constant('a')) }),
        ),
        operator: by.maybe(Operator(v.operator), v.operator.name),
        calls: by.maybe(
          Call(
            some(v.portCalls, {
              where: (c: Any) => [by.condition(equals(c.status, 'berthed'))],
              sort: ['eta'],
            } as Any) as Any,
          ),
          Call(v.portCalls),
        ),
        many: by.maybe(
          count(
            some(v.portCalls, {
              where: (c: Any) => [by.condition(atLeast(c.eta, new Date('2026-04-01')))],
            } as Any),
          ),
          count(v.portCalls),
        ),
        inside: by.literal({ kind: v.kind, active: by.only(v.active) }),
      }),
    { name: 'Vessel' },
  );
  return { Operator, Call, Vessel };
};

const inputsOf = (by: Declaring) => {
  const NewCall = input(
    stock.portCall,
    (c: Any) =>
      by.literal({
        id: c.id,
        vessel: c.vesselId,
        eta: c.eta,
        status: by.either(c.status, preset(c.status, 'announced')),
      }),
    { name: 'NewCall' },
  );
  // A renamed member: one of the two is there in each.
  const NewOperator = input(
    stock.operator,
    (o: Any) => by.renamed({ name: o.name }, { title: o.name }, { parent: optional(o.parentId) }),
    { name: 'NewOperator' },
  );
  return { NewCall, NewOperator };
};

/** A random API: in all editions, or as the one alone. */
export const randomEditions = (seed: number, alone: Edition | null): AnyApi => {
  const by = new Declaring(seed, alone);
  const { Operator, Call, Vessel } = shapesOf(by);
  const { NewCall, NewOperator } = inputsOf(by);
  const told = by.either(values({ reason: text() }), values({ why: text(), berth: optional(integer()) }));
  const sorts = [...by.sort('name'), ...by.sort('builtYear')];
  const filterSeed = by.choose(1_000_000);
  const rows =
    by.choose(2) === 0 ? [rowRule(stock.vessel, (v: Any) => by.condition(equals(v.kind, 'bulk')))] : [];
  return api({
    title: 'Random',
    version: '1',
    audiences: ['agent', 'office'],
    ...(alone === null ? { editions: [...EDITIONS] } : {}),
    rows,
    endpoints: by.literal({
      vessels: collection('/vessels', stock.vessel, {
        list: by.either(page(Vessel, { size: 2, by: 'number' }), list(Vessel)),
        read: Vessel,
        // It is called for each edition: with the same choices each time.
        filters: (v: Any) => {
          const again = new Declaring(filterSeed, alone);
          return again.literal({
            name: again.maybe(contains(v.name), equals(v.name)),
            year: again.only(atLeast(v.builtYear)),
          });
        },
        ...(sorts.length === 0 ? {} : { sort: sorts }),
      } as Any),
      calls: by.maybe(
        collection('/calls', stock.portCall, {
          list: list(Call),
          read: Call,
          create: { takes: NewCall, returns: Call },
        } as Any),
        collection('/visits', stock.portCall, { list: list(Call), create: { takes: NewCall } } as Any),
      ),
      operators: collection('/operators', stock.operator, {
        list: list(Operator),
        read: Operator,
        create: by.either({ takes: NewOperator, returns: Operator }, { takes: NewOperator }),
      } as Any),
      close: endpoint('POST /vessels/{id}/close', { from: stock.vessel, takes: told } as Any),
    }),
  } as Any) as unknown as AnyApi;
};
