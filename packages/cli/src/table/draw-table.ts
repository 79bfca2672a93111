import Table from 'cli-table3';
import type { EndpointPlan } from 'gribo/kit';
import type { Screen } from '../screen/screen.js';

/** A member with its cells by endpoint, whatever is in them. */
interface Line<T> {
  readonly member: string;
  readonly cells: Readonly<Record<string, readonly T[]>>;
}

const resourceOf = (name: string): string => name.slice(0, name.lastIndexOf('.') + 1);

/** The head of a column: `portCalls.read`, below it the operations that are alike, and whom they answer where not all. */
const headOf = (endpoints: readonly EndpointPlan[]): string => {
  const [first = '', ...others] = endpoints.map(({ name }) => name);
  const audiences = endpoints[0]?.audiences ?? null;
  const resource = resourceOf(first);
  const short = others.map((name) =>
    resource !== '' && resourceOf(name) === resource ? name.slice(resource.length) : name,
  );
  return [first, ...short, ...(audiences === null ? [] : [`for ${audiences.join(', ')}`])].join('\n');
};

/** Endpoints that have the same cells throughout, as one column. */
const alikeColumns = (
  lines: readonly Line<unknown>[],
  endpoints: readonly EndpointPlan[],
): readonly (readonly EndpointPlan[])[] => {
  const columns = new Map<string, EndpointPlan[]>();
  for (const endpoint of endpoints) {
    const { name, audiences } = endpoint;
    const cells = JSON.stringify([audiences, lines.map((line) => line.cells[name])]);
    columns.set(cells, [...(columns.get(cells) ?? []), endpoint]);
  }
  return [...columns.values()];
};

const longestLine = (text: string): number => Math.max(...text.split('\n').map((line) => line.length));

/** Columns as wide as their heads at least, and as the screen allows: members by endpoints. */
const widths = (screen: Screen, heads: readonly string[], members: readonly string[]): number[] => {
  const first = Math.min(24, Math.max(8, ...members.map((member) => member.length)) + 2);
  const borders = heads.length + 2;
  const each = Math.floor((screen.width - first - borders) / heads.length);
  return [first, ...heads.map((head) => Math.max(longestLine(head) + 2, Math.min(each, 36)))];
};

/** What stands where there is nothing. */
export const NONE = '·';

/**
 * Members by endpoints, as a table: endpoints that are alike throughout share a column.
 *
 * @param corner what stands above the members
 * @param paint one thing in a cell, in words and colours
 */
export const drawTable = <T>(
  screen: Screen,
  corner: string,
  endpoints: readonly EndpointPlan[],
  lines: readonly Line<T>[],
  paint: (one: T, member: string) => string,
): string => {
  const { colours } = screen;
  const columns = alikeColumns(lines, endpoints);
  const heads = columns.map(headOf);
  const drawn = new Table({
    head: [corner, ...heads].map((word) => colours.bold(word)),
    colWidths: widths(
      screen,
      heads,
      lines.map(({ member }) => member),
    ),
    wordWrap: true,
    style: { head: [], border: [], compact: true },
  });
  for (const { member, cells } of lines) {
    const painted = columns.map(([first]) => {
      const all = cells[first?.name ?? ''] ?? [];
      return all.length === 0 ? colours.dim(NONE) : all.map((one) => paint(one, member)).join('\n');
    });
    drawn.push([member, ...painted]);
  }
  return drawn.toString();
};
