import {
  Badge,
  Card,
  Group,
  Modal,
  SimpleGrid,
  Stack,
  Table,
  Text,
  TextInput,
  UnstyledButton,
} from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useState } from 'react';
import { clientFor, type Vessel, type Whom } from '../call-api.js';
import { useLoaded } from '../use-loaded.js';
import { momentText, Status, Waiting } from './status.js';

/** The photograph of a vessel, where there is one. */
const Photo = ({ id, name }: { readonly id: number; readonly name: string }) => {
  const [isMissing, setMissing] = useState(false);
  if (isMissing) return null;
  return (
    <img src={`/api/vessels/${id}/photo`} alt={name} className="photo" onError={() => setMissing(true)} />
  );
};

const Detail = ({ id, whom }: { readonly id: number; readonly whom: Whom }) => {
  const loaded = useLoaded(`${id} ${whom}`, () => clientFor(whom)('vessels.read', { path: { id } }));
  if (loaded.state !== 'loaded') return <Waiting loaded={loaded} />;
  const vessel = loaded.value;
  const facts: readonly (readonly [string, string | number])[] = [
    ['IMO number', vessel.imoNumber],
    ['Call sign', vessel.callSign ?? '–'],
    ['Flag', vessel.flag],
    ['Age', `${vessel.age} years`],
    ['Length', `${vessel.size.length} m`],
    ['Draught', `${vessel.size.draught} m`],
    ['Gross tonnage', vessel.size.tonnage],
    ['Operator', vessel.operator?.name ?? '–'],
  ];
  return (
    <Stack>
      <Photo id={id} name={vessel.name} />
      <Table aria-label="About the vessel">
        <Table.Tbody>
          {facts.map(([name, value]) => (
            <Table.Tr key={name}>
              <Table.Th scope="row">{name}</Table.Th>
              <Table.Td>{value}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
      {vessel.notes === undefined ? null : <Text size="sm">{vessel.notes}</Text>}
      <Text fw={600}>Last calls</Text>
      {vessel.portCalls.length === 0 ? <Text size="sm">It has not called here.</Text> : null}
      {vessel.portCalls.map((call) => (
        <Group key={call.id} justify="space-between">
          <Text size="sm">{call.eta === undefined ? 'not public yet' : momentText(call.eta)}</Text>
          <Status status={call.status} />
        </Group>
      ))}
    </Stack>
  );
};

const VesselCard = ({ vessel, open }: { readonly vessel: Vessel; readonly open: () => void }) => (
  <UnstyledButton onClick={open}>
    <Card withBorder className="vessel">
      <Text fw={600}>{vessel.name}</Text>
      <Text size="sm">{vessel.operatorName ?? 'no operator'}</Text>
      <Group gap="xs" mt="xs">
        <Badge variant="outline" tt="none" className="status indigo">
          {vessel.kind}
        </Badge>
        <Text size="sm">
          {vessel.flag}
          {vessel.callSign === null ? '' : ` · ${vessel.callSign}`}
        </Text>
      </Group>
    </Card>
  </UnstyledButton>
);

/** The harbour's vessels, to be looked for by name. */
export const VesselsView = ({ whom }: { readonly whom: Whom }) => {
  const [name, setName] = useState('');
  const [wanted] = useDebouncedValue(name, 200);
  const [opened, setOpened] = useState<Vessel | null>(null);
  const loaded = useLoaded(`${whom} ${wanted}`, () =>
    clientFor(whom)('vessels.list', { query: { size: 24, ...(wanted === '' ? {} : { q: wanted }) } }),
  );
  return (
    <Stack>
      <TextInput
        label="Look for a vessel"
        placeholder="a part of its name"
        maw={360}
        value={name}
        onChange={(event) => setName(event.currentTarget.value)}
      />
      <Waiting loaded={loaded} />
      {loaded.state === 'loaded' && loaded.value.items.length === 0 ? (
        <Text>No vessel is called so.</Text>
      ) : null}
      {loaded.state === 'loaded' ? (
        <SimpleGrid cols={{ base: 1, xs: 2, md: 4 }} data-testid="vessels">
          {loaded.value.items.map((vessel) => (
            <VesselCard key={vessel.id} vessel={vessel} open={() => setOpened(vessel)} />
          ))}
        </SimpleGrid>
      ) : null}
      <Modal
        opened={opened !== null}
        onClose={() => setOpened(null)}
        title={opened?.name ?? ''}
        closeButtonProps={{ 'aria-label': 'Close' }}
      >
        {opened === null ? null : <Detail id={opened.id} whom={whom} />}
      </Modal>
    </Stack>
  );
};
