import type { BoardData, BoardEntity } from '@gribo/cli';
import {
  Alert,
  Badge,
  Group,
  NativeSelect,
  Popover,
  ScrollArea,
  Stack,
  Table,
  Text,
  TextInput,
} from '@mantine/core';
import { sayWay, type TableLine, type Way } from 'gribo/kit';
import { useState } from 'react';
import { type CellKind, cellKind, KIND_WORDS } from '../parts/cell-kind.js';
import { flowLines } from '../parts/flow-lines.js';
import { usePlace } from '../state/use-place.js';
import type { ViewProps } from '../state/view-props.js';

const wordsOf = (ways: readonly Way[]): string => ways.map((way) => sayWay(way)).join('\n');

/** For a cell: of which rows it is, there is no room to say. */
const shortOf = (ways: readonly Way[]): string =>
  ways.map((way) => sayWay(way, () => 'some rows')).join('\n');

interface CellProps {
  readonly data: BoardData;
  readonly endpoint: string;
  readonly member: string;
  readonly ways: readonly Way[];
  readonly audience: string | null;
}

/** One member at one endpoint: hovered, focused or pressed, it tells the way back to its column. */
const Cell = ({ data, endpoint, member, ways, audience }: CellProps) => {
  const [isOpen, setOpen] = useState(false);
  const kind = cellKind(ways);
  const words = wordsOf(ways);
  if (kind === 'absent') return <span className="cell absent">·</span>;
  const lines = flowLines(data.flows, endpoint, member, audience);
  return (
    <Popover opened={isOpen} withArrow shadow="md" width={340} position="bottom-start">
      <Popover.Target>
        <button
          type="button"
          className={`cell ${kind}`}
          aria-label={`${member} at ${endpoint}: ${words}`}
          onMouseEnter={() => setOpen(true)}
          onMouseLeave={() => setOpen(false)}
          onFocus={() => setOpen(true)}
          onBlur={() => setOpen(false)}
        >
          {shortOf(ways)}
        </button>
      </Popover.Target>
      <Popover.Dropdown>
        <Text size="sm" fw={600}>
          {endpoint} / {member}
        </Text>
        {lines.length === 0 ? (
          <Text size="sm">It comes from no column.</Text>
        ) : (
          lines.map((line) => (
            <Text size="sm" key={`${line.column} ${line.how}`}>
              <b className={line.sealed === null ? 'column' : 'column sealed'}>{line.column}</b> {line.how}
              {line.sealed === null ? '' : ` · sealed: ${line.sealed}`}
            </Text>
          ))
        )}
      </Popover.Dropdown>
    </Popover>
  );
};

const KINDS: readonly CellKind[] = ['sent', 'converted', 'made', 'conditional', 'unsealed', 'absent'];

const Legend = () => (
  <Group gap="sm" component="ul" className="legend" aria-label="What the colours mean">
    {KINDS.map((kind) => (
      <li key={kind}>
        <span className={`cell ${kind} swatch`}>{kind === 'absent' ? '·' : ''}</span>
        <Text size="xs" component="span">
          {KIND_WORDS[kind]}
        </Text>
      </li>
    ))}
  </Group>
);

const sealedColumns = ({ columns }: BoardEntity): readonly string[] =>
  columns.flatMap(({ name, sealed }) => (sealed === null ? [] : [`${name} (${sealed})`]));

const shortName = (name: string, first: string): string => {
  const resource = first.slice(0, first.lastIndexOf('.') + 1);
  return name !== first && resource !== '' && name.startsWith(resource) ? name.slice(resource.length) : name;
};

/** Members down, endpoints across, for one entity and one audience. */
export const TableView = ({ data, audience }: ViewProps) => {
  const [place, go] = usePlace();
  const [search, setSearch] = useState('');
  const entity = data.entities.find(({ name }) => name === place['entity']) ?? data.entities[0];
  if (entity === undefined) return <Alert title="Nothing is sent yet">No endpoint returns a body.</Alert>;
  const tables = data.tables[entity.name] ?? [];
  const table = tables.find((one) => one.audience === audience)?.lines ?? [];
  const endpoints = data.endpoints.filter(({ sends }) => sends === entity.name);
  const isFound = ({ member, cells }: TableLine): boolean =>
    [member, ...Object.values(cells).map(wordsOf)].some((text) =>
      text.toLowerCase().includes(search.toLowerCase()),
    );
  const lines = table.filter(isFound);
  const sealed = sealedColumns(entity);
  return (
    <Stack>
      <Group align="end">
        <NativeSelect
          label="Entity"
          value={entity.name}
          onChange={(event) => go({ entity: event.currentTarget.value })}
          data={data.entities.map(({ name }) => name)}
        />
        <TextInput
          label="Search"
          placeholder="member, or what is done to it"
          w={290}
          value={search}
          onChange={(event) => setSearch(event.currentTarget.value)}
        />
        <Text size="sm" c="dimmed" pb={6} aria-live="polite">
          {lines.length} {lines.length === 1 ? 'member' : 'members'}
        </Text>
      </Group>
      {sealed.length === 0 ? null : (
        <Group gap={6}>
          <Text size="sm">Sealed columns:</Text>
          {sealed.map((name) => (
            <Badge key={name} className="seal" variant="outline" tt="none">
              {name}
            </Badge>
          ))}
        </Group>
      )}
      <ScrollArea type="auto" viewportProps={{ tabIndex: 0, 'aria-label': 'The table' }}>
        <Table withTableBorder highlightOnHover verticalSpacing={3} className="members" data-testid="members">
          <Table.Thead>
            <Table.Tr>
              <Table.Th scope="col">{entity.name}</Table.Th>
              {endpoints.map(({ name, method, path }) => (
                <Table.Th key={name} scope="col" title={`${method} ${path}`}>
                  {shortName(name, endpoints[0]?.name ?? '')}
                </Table.Th>
              ))}
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {lines.map(({ member, cells }) => (
              <Table.Tr key={member}>
                <Table.Th scope="row" className="member">
                  {member}
                </Table.Th>
                {endpoints.map(({ name }) => (
                  <Table.Td key={name}>
                    <Cell
                      data={data}
                      endpoint={name}
                      member={member}
                      ways={cells[name] ?? []}
                      audience={audience}
                    />
                  </Table.Td>
                ))}
              </Table.Tr>
            ))}
          </Table.Tbody>
        </Table>
      </ScrollArea>
      {lines.length === 0 ? (
        <Alert color="gray" title="Nothing to show">
          {search === '' ? 'This audience sees nothing of it.' : 'No member has this in it.'}
        </Alert>
      ) : (
        <Legend />
      )}
    </Stack>
  );
};
