import {
  contentShape,
  type EndpointPlan,
  type ResolvedField,
  type ResolvedNode,
  resolve,
  type Situation,
} from 'gribo';

/** How one member is at one endpoint, for one audience. */
interface Presence {
  /** What is sent: the value as it is, or what was made of it. */
  readonly how: string;
  /** Only for some rows, or only when asked. */
  readonly when: string;
}

/** The members of one endpoint, for one audience, by their dotted names. */
type Members = ReadonlyMap<string, Presence>;

const valueWord = (node: ResolvedNode): string => {
  switch (node.kind) {
    case 'column':
      if (node.column.sealed !== null) return 'unsealed';
      // What comes from behind a link says from where.
      return node.path.length === 0
        ? 'sent'
        : [...node.path.map((link) => link.name), node.column.name].join('.');
    case 'derived':
    case 'count':
      return 'computed';
    case 'constant':
      return 'constant';
    case 'converted':
      return node.conversion.name;
    case 'nested':
    case 'first':
      return 'object';
    case 'nestedList':
      return 'list';
    case 'group':
      return 'group';
    default:
      return node satisfies never;
  }
};

/** Groups are opened, nested shapes are not: they have tables of their own. */
const gather = (
  fields: readonly ResolvedField[],
  prefix: string,
  when: string,
  members: Map<string, Presence>,
): void => {
  for (const { name, condition, whenPresent, node } of fields) {
    const own = condition !== null ? 'some rows' : whenPresent ? 'not null' : when;
    const path = prefix + name;
    if (node.kind === 'group') gather(node.fields, `${path}.`, own, members);
    else members.set(path, { how: valueWord(node), when: own });
  }
};

/** What one audience sees at one endpoint: also what it could ask for. */
const seenBy = (endpoint: EndpointPlan, audience: string | undefined): Members => {
  const seen = new Map<string, Presence>();
  const { returns, only } = endpoint;
  if (returns === null || (only !== null && (audience === undefined || !only.includes(audience))))
    return seen;
  const content = { plan: contentShape(returns) };
  const situation: Situation = { endpoint: endpoint.name, ...(audience === undefined ? {} : { audience }) };
  const plain = resolve(content, situation);
  gather(plain.content.fields, '', '', seen);
  for (const name of plain.asks) {
    const more = new Map<string, Presence>();
    gather(resolve(content, { ...situation, asked: [name] }).content.fields, '', '', more);
    for (const [path, { how }] of more) if (!seen.has(path)) seen.set(path, { how, when: `with=${name}` });
  }
  return seen;
};

const words = ({ how, when }: Presence): string => (when === '' ? how : `${how}, ${when}`);

/** One line of the table: a member, and its cell at each endpoint. */
export interface TableLine {
  readonly member: string;
  /** By endpoint name: the words of the cell, empty where the member is absent. */
  readonly cells: Readonly<Record<string, string>>;
}

/** The words of one cell over several audiences: a line for each way, with whom it is for where that is not all. */
const cellOf = (member: string, byAudience: readonly (readonly [string, Members])[]): string => {
  const groups = new Map<string, string[]>();
  for (const [audience, members] of byAudience) {
    const presence = members.get(member);
    if (presence === undefined) continue;
    const text = words(presence);
    groups.set(text, [...(groups.get(text) ?? []), audience]);
  }
  const isAll = (names: readonly string[]): boolean => names.length === byAudience.length;
  return [...groups]
    .map(([text, names]) => (isAll(names) ? text : `${names.join(', ')}: ${text}`))
    .join('\n');
};

/**
 * Which member appears at which endpoint, for whom, changed how.
 *
 * @param audiences the audiences to tell apart; none: only what everybody sees
 */
export const tableLines = (
  endpoints: readonly EndpointPlan[],
  audiences: readonly string[],
): readonly TableLine[] => {
  const whom = audiences.length === 0 ? [undefined] : audiences;
  const seen = new Map(
    endpoints.map((endpoint) => [
      endpoint.name,
      whom.map((audience) => [audience ?? '', seenBy(endpoint, audience)] as const),
    ]),
  );
  const members = new Set([...seen.values()].flatMap((all) => all.flatMap(([, found]) => [...found.keys()])));
  return [...members].map((member) => ({
    member,
    cells: Object.fromEntries([...seen].map(([name, byAudience]) => [name, cellOf(member, byAudience)])),
  }));
};

/** Endpoints that have the same cells throughout, as one column. */
export const alikeColumns = (
  lines: readonly TableLine[],
  names: readonly string[],
): readonly (readonly string[])[] => {
  const columns = new Map<string, string[]>();
  for (const name of names) {
    const cells = JSON.stringify(lines.map((line) => line.cells[name]));
    columns.set(cells, [...(columns.get(cells) ?? []), name]);
  }
  return [...columns.values()];
};
