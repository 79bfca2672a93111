import { Group, Pagination, Paper, SegmentedControl, Stack, Text } from '@mantine/core';
import { useState } from 'react';
import { type Arrival, clientFor, type Whom } from '../call-api.js';
import { useLoaded } from '../use-loaded.js';
import { CancelCall } from './cancel-call.js';
import { momentText, Status, Waiting } from './status.js';

const FILTERS = [
  ['expected', 'Expected', ['announced', 'confirmed']],
  ['berthed', 'In harbour', ['berthed']],
  ['sailed', 'Sailed', ['sailed']],
  ['cancelled', 'Cancelled', ['cancelled']],
] as const;

const SIZE = 8;

/** The statuses of calls that are still to come. */
const EXPECTED: readonly string[] = ['announced', 'confirmed'];

interface LineProps {
  readonly call: Arrival;
  readonly whom: Whom;
  /** Told when the call was cancelled. */
  readonly cancelled: () => void;
}

const Line = ({ call, whom, cancelled }: LineProps) => (
  <Paper withBorder p="sm" className="line" component="li">
    <div className="when">{call.eta === undefined ? 'not public yet' : momentText(call.eta)}</div>
    <div className="who">{call.vessel.name}</div>
    <div className="where">{call.berth == null ? 'no berth yet' : `berth ${call.berth}`}</div>
    <Group gap="xs" justify="flex-end">
      {whom === 'agent' && EXPECTED.includes(call.status) ? (
        <CancelCall call={call} cancelled={cancelled} />
      ) : null}
      <Status status={call.status} />
    </Group>
  </Paper>
);

/** What is expected, in harbour, and gone. */
export const ArrivalsView = ({ whom }: { readonly whom: Whom }) => {
  const [filter, setFilter] = useState<(typeof FILTERS)[number][0]>('expected');
  const [page, setPage] = useState(1);
  const [changes, setChanges] = useState(0);
  const [, , statuses = []] = FILTERS.find(([name]) => name === filter) ?? [];
  const loaded = useLoaded(`${whom} ${filter} ${page} ${changes}`, () =>
    clientFor(whom)('portCalls.list', { query: { status: statuses, page, size: SIZE, sort: ['eta'] } }),
  );
  return (
    <Stack>
      <Group justify="space-between">
        <SegmentedControl
          aria-label="Which calls"
          value={filter}
          onChange={(next) => {
            setFilter(next as typeof filter);
            setPage(1);
          }}
          data={FILTERS.map(([value, label]) => ({ value, label }))}
        />
        {loaded.state === 'loaded' ? <Text size="sm">{loaded.value.page.total} port calls</Text> : null}
      </Group>
      <Waiting loaded={loaded} />
      {loaded.state === 'loaded' ? (
        <>
          <ul className="lines" data-testid="arrivals">
            {loaded.value.items.map((call) => (
              <Line key={call.id} call={call} whom={whom} cancelled={() => setChanges(changes + 1)} />
            ))}
          </ul>
          {loaded.value.items.length === 0 ? <Text>There is none.</Text> : null}
          <Pagination
            total={loaded.value.page.pages}
            value={page}
            onChange={setPage}
            getControlProps={(control) => ({ 'aria-label': `${control} page` })}
            getItemProps={(number) => ({ 'aria-label': `page ${number}` })}
          />
        </>
      ) : null}
    </Stack>
  );
};
