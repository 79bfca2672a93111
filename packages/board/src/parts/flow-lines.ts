import type { Flow } from 'gribo';

/** One column behind a member, and what became of it. */
export interface FlowLine {
  readonly column: string;
  readonly how: string;
  readonly sealed: string | null;
}

const HOW: Readonly<Record<Flow['kind'], string>> = {
  sent: 'as it is',
  converted: 'after',
  computed: 'is read to compute it',
  decides: 'decides whether it is there',
  rules: 'decides which rows there are',
  orders: 'orders its rows',
  filters: 'filters the rows',
  set: 'is set by it',
};

/** A member as the table names it: without the marks of lists and what is around the rows. */
const plain = (member: string): string => member.replaceAll('[]', '').replace(/^items\./, '');

/** The columns behind a member and what is inside it, for one audience. */
export const flowLines = (
  flows: readonly Flow[],
  endpoint: string,
  member: string,
  audience: string | null,
): readonly FlowLine[] => {
  const isFor = ({ audiences }: Flow): boolean => audiences.includes(audience);
  const isAbout = (path: string): boolean => path === member || path.startsWith(`${member}.`);
  const found = flows.filter(
    (flow) => flow.endpoint === endpoint && flow.kind !== 'set' && isFor(flow) && isAbout(plain(flow.member)),
  );
  const lines = found.map(({ entity, column, kind, conversions, asks, where, sealed }) => ({
    column: `${entity}.${column}`,
    how: [
      HOW[kind],
      ...conversions,
      ...(asks.length === 0 ? [] : [`(with=${asks.join(',')})`]),
      ...(where === null ? [] : [`where ${where}`]),
    ].join(' '),
    sealed,
  }));
  return [...new Map(lines.map((line) => [JSON.stringify(line), line])).values()];
};
