import type { ApiPlan } from '../../plan/api-plan.js';
import { answers } from '../../plan/audiences-at.js';
import type { StoreCondition, ThereIs } from '../../plan/condition.js';
import type { EntityPlan, LinkPlan } from '../../plan/entity-plan.js';
import { rulesFor, type SettledRules } from '../../resolve/rules-for.js';
import type { FindingRule } from '../finding.js';
import type { Flow } from '../lineage/lineage.js';

/** A column of another entity that a rule goes by, and how a change could make the rule hold. */
interface Read {
  readonly entity: string;
  readonly column: string;
  /** Whether a new row does it too; otherwise only one that is there already. */
  readonly byNew: boolean;
}

/** Reads of what a rule tests behind the links of the entity that it is for. */
class Reads {
  readonly all: Read[] = [];
  readonly #ruled: EntityPlan;
  readonly #rules: SettledRules;

  constructor(ruled: EntityPlan, rules: SettledRules) {
    this.#ruled = ruled;
    this.#rules = rules;
  }

  /** @param at the entity whose rows the condition is about @param byNew whether a new row of it can be what the rule looks for */
  condition(node: StoreCondition, at: EntityPlan, byNew: boolean): void {
    switch (node.kind) {
      case 'all':
      case 'any':
        for (const one of node.of) this.condition(one, at, byNew);
        return;
      case 'not':
        return this.condition(node.of, at, byNew);
      case 'compares':
        return this.#compared(node.left.path, node.left.column.name, at, byNew);
      case 'thereIs':
        return this.#rows(node, at);
      default:
        return node satisfies never;
    }
  }

  #compared(path: readonly LinkPlan[], column: string, at: EntityPlan, byNew: boolean): void {
    const end = this.#way(path, at);
    this.#add(end, column, path.length === 0 && byNew);
  }

  /** The columns that lead on, beyond the first row: which row they name is another one after an amendment. */
  #way(path: readonly LinkPlan[], at: EntityPlan): EntityPlan {
    let owner = at;
    for (const link of path) {
      for (const name of link.from) this.#add(owner, name, false);
      owner = link.target;
    }
    return owner;
  }

  #rows({ path, link, selection, middle }: ThereIs<StoreCondition>, at: EntityPlan): void {
    const owner = this.#way(path, at);
    // A new row has to name the one that it is for: whoever does not see that one cannot.
    const byNew = owner !== this.#ruled && (this.#rules.get(owner.name)?.see ?? null) === null;
    const { through, target } = link;
    const holder = through?.entity ?? target;
    if (byNew) for (const name of through?.from ?? link.to) this.#add(holder, name, true);
    for (const name of through?.to ?? []) this.#add(holder, name, byNew);
    for (const condition of middle) this.condition(condition, holder, byNew);
    for (const condition of selection.where) this.condition(condition, target, byNew && through === null);
  }

  #add(entity: EntityPlan, column: string, byNew: boolean): void {
    if (entity === this.#ruled) return;
    // Only some rows of it are amended: the rule of that entity decides.
    if (!byNew && this.#rules.has(entity.name)) return;
    this.all.push({ entity: entity.name, column, byNew });
  }
}

/** The endpoints at which an audience sets what a rule reads. */
const settingAt = (api: ApiPlan, flows: readonly Flow[], read: Read, audience: string | null) =>
  flows
    .filter(({ kind, entity, column }) => kind === 'set' && entity === read.entity && column === read.column)
    .flatMap(({ endpoint: name }) => {
      const endpoint = api.endpoints.find((one) => one.name === name);
      if (endpoint === undefined || !answers(endpoint, audience)) return [];
      return endpoint.operation === 'create' && !read.byNew ? [] : [name];
    });

const listed = (names: ReadonlySet<string>): string => [...names].join(', ');

export const ruleByOwnChange: FindingRule = {
  code: 'rule-by-own-change',
  severity: 'warning',
  rule: 'A row rule goes by what those whom it is for can change: then they see what they like.',
  advice: 'Let only others set it, give the entity that has it a rule of its own, or accept it.',
  find: ({ api, flows }) => {
    const found = new Map<string, Record<'rows' | 'who' | 'where', Set<string>>>();
    for (const audience of [null, ...api.audiences]) {
      const rules = rulesFor(api, audience);
      for (const { entity, see } of rules.values()) {
        if (see === null) continue;
        const reads = new Reads(entity, rules);
        reads.condition(see, entity, false);
        for (const read of reads.all)
          for (const endpoint of settingAt(api, flows, read, audience)) {
            const place = `${read.entity}.${read.column}`;
            const said = found.get(place) ?? { rows: new Set(), who: new Set(), where: new Set() };
            found.set(place, said);
            said.rows.add(entity.name);
            said.who.add(audience ?? 'nobody in particular');
            said.where.add(endpoint);
          }
      }
    }
    return [...found].map(([place, { rows, who, where }]) => ({
      place,
      message: `It decides which rows of ${listed(rows)} are seen, and ${listed(who)} may set it at ${listed(where)}.`,
    }));
  },
};
