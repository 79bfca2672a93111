import { planLoad } from '../load/plan-load.js';
import type { ApiPlan, EndpointPlan } from '../plan/api-plan.js';
import { audiencesAt } from '../plan/audiences-at.js';
import type { JsonValue } from '../plan/condition.js';
import { convert } from '../plan/conversion.js';
import type { BodyPlan, PageSettings } from '../plan/declared.js';
import type { InputField, InputPlan } from '../plan/input-plan.js';
import { type Cell, cellsAt } from '../resolve/matrix.js';
import { settledInput } from '../resolve/settle-input.js';
import type { MemoryStore } from '../store/memory-store.js';
import { jsonReady } from '../values/kinds.js';
import { writeBody } from '../write/write-body.js';
import type { EnvelopeData } from '../write/writer.js';
import { sampleValue } from './kinds.js';
import { randomAt } from './random.js';
import { sampleFacts } from './sample-facts.js';

/** Example bodies of an endpoint, by audience: what is sent, and what it takes; null stands for callers of none. */
export interface EndpointExamples {
  readonly sent: ReadonlyMap<string | null, JsonValue>;
  readonly taken: ReadonlyMap<string | null, JsonValue>;
}

/** How many rows an example of a list shows. */
const SHOWN = 2;

type Values = Readonly<Record<string, unknown>>;

const envelopeOf = (items: readonly object[], page: PageSettings | null): EnvelopeData => {
  if (page === null) return { items, total: items.length };
  const { size, by } = page;
  return by === 'number'
    ? { items, size, number: 1, total: items.length, pages: 1, next: null, previous: null }
    : { items, size, total: items.length, number: null, pages: null, next: null, previous: null };
};

/** What a body is written from; undefined where there are no rows for it. */
const dataOf = (body: BodyPlan, rows: readonly object[]): unknown => {
  if (body.kind === 'list') return rows.slice(0, SHOWN);
  if (body.kind === 'shape') return rows[0];
  if (body.content.kind === 'list') return envelopeOf(rows.slice(0, SHOWN), body.page);
  return rows[0] === undefined ? undefined : { item: rows[0] };
};

const sentTo = ({ endpoint, body }: Cell, rows: MemoryStore): JsonValue | undefined => {
  const found = Array.from(rows.stream(planLoad(body), { limit: SHOWN, sort: body.sort }));
  const data = dataOf(endpoint.returns, found);
  if (data === undefined || found.length === 0) return undefined;
  // What a writer makes is JSON-ready: that is its law.
  return writeBody(body, 'never').object(data, sampleFacts(body.facts)) as JsonValue;
};

/** What a member of a body looks like for a row; undefined where it is better left out. */
const takenMember = ({ node, presence }: InputField, row: Values): JsonValue | undefined => {
  switch (node.kind) {
    case 'set': {
      const { column, conversions } = node;
      const value = row[column.name];
      if (value === null) return presence.kind === 'required' ? null : undefined;
      const back = [...conversions].reverse();
      const shown = back.reduce((inner: unknown, conversion) => convert(conversion, inner), value);
      return jsonReady(conversions[0]?.yields ?? column.type, shown) as JsonValue;
    }
    case 'inputGroup': {
      const made = takenMembers(node.fields, row);
      return Object.keys(made).length === 0 && presence.kind !== 'required' ? undefined : made;
    }
    case 'nestedInput': {
      const behind = row[node.link.name];
      if (Array.isArray(behind)) {
        return behind.slice(0, SHOWN).map((inner: Values) => takenMembers(node.input.fields, inner));
      }
      return behind === null ? undefined : takenMembers(node.input.fields, behind as Values);
    }
    default:
      return node satisfies never;
  }
};

const takenMembers = (fields: readonly InputField[], row: Values): { readonly [name: string]: JsonValue } =>
  Object.fromEntries(
    fields.flatMap((field) => {
      const value = takenMember(field, row);
      return value === undefined ? [] : [[field.name, value]];
    }),
  );

/** Values that stand in no table, made up: under the names that their members have. */
const valuesRow = ({ fields }: InputPlan, at: readonly string[]): Values =>
  Object.fromEntries(
    fields.map(({ name, node }): readonly [string, unknown] => {
      const place = [...at, name];
      // Among values, groups are values inside others.
      if (node.kind === 'inputGroup') return [name, {}];
      if (node.kind === 'set') {
        const { column } = node;
        return [name, column.example ?? sampleValue(column, 0, randomAt(...place))];
      }
      const inner = valuesRow(node.input, place);
      return [name, node.link.kind === 'toMany' ? [inner] : inner];
    }),
  );

const takenBy = (input: InputPlan, rows: MemoryStore): JsonValue | undefined => {
  if (input.entity.kind === 'values') return takenMembers(input.fields, valuesRow(input, [input.name]));
  const plan = { entity: input.entity.name, table: '', key: [], columns: [], links: [], figures: [] };
  const [row] = Array.from(rows.stream(plan, { limit: 1 }));
  return row === undefined ? undefined : takenMembers(input.fields, row as Values);
};

const examplesAt = (api: ApiPlan, endpoint: EndpointPlan, rows: MemoryStore): EndpointExamples => {
  // A file is shown by nothing that stands in a document.
  const cells = endpoint.sends === 'file' ? [] : cellsAt(api, endpoint);
  const sent = cells.flatMap((cell) => {
    const body = sentTo(cell, rows);
    return body === undefined ? [] : [[cell.audience, body] as const];
  });
  const { takes, takesMany } = endpoint;
  const taken = audiencesAt(endpoint, api).flatMap((audience) => {
    const one = takes === null ? undefined : takenBy(settledInput(takes, audience), rows);
    return one === undefined ? [] : [[audience, takesMany ? [one] : one] as const];
  });
  return { sent: new Map(sent), taken: new Map(taken) };
};

/** Example bodies for every endpoint of an API, written from sample rows: exactly the members that are sent. */
export const examplesOf = (api: ApiPlan, rows: MemoryStore): Readonly<Record<string, EndpointExamples>> =>
  Object.fromEntries(api.endpoints.map((endpoint) => [endpoint.name, examplesAt(api, endpoint, rows)]));
